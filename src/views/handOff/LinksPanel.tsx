import type { GiftOf } from "@core/handOff";
import { useProject } from "@stores/document";
import { giftIn, linkOf } from "@stores/gifts";
import { notify } from "@stores/notices";
import { useId, useMemo, useState } from "react";
import GiftSheet from "../frame/GiftSheet";

/** A card, a pose or a small routine as a link that a friend's bench can open; and the way in for one that came by mail. */
export default function LinksPanel() {
  const project = useProject((current) => current);
  const [chosen, setChosen] = useState("");
  const id = useId();
  const items = useMemo(
    () => [
      ["Poses", project.poses.map((pose) => [`pose ${pose.id}`, pose.name] as const)] as const,
      ["Routines", project.routines.map((routine) => [`routine ${routine.id}`, routine.name] as const)] as const,
      ["Servo cards", project.cards.map((card) => [`card ${card.id}`, card.label] as const)] as const,
    ],
    [project],
  );
  const all: readonly string[] = items.flatMap(([, list]) => list.map(([key]) => key));
  const key = all.includes(chosen) ? chosen : (all[0] ?? "");
  // biome-ignore lint/correctness/useExhaustiveDependencies: the link is of the project as it stands.
  const link = useMemo(() => (key === "" ? null : linkOf(chosenOf(key))), [key, project]);
  const copy = async () => {
    if (!link?.ok) return;
    await navigator.clipboard.writeText(link.value).then(
      () => notify("The link is in the clipboard."),
      () => notify("This browser does not let the page copy. Select the link and copy it by hand.", "warning"),
    );
  };
  return (
    <div className="grid max-w-2xl gap-4 overflow-y-auto py-3">
      <section className="sheet" aria-label="Make a link">
        <h2 className="heading">Give something to a friend</h2>
        <p className="mt-1">
          All of it stands in the link itself, behind the #: no server ever sees it. Your friend looks at it before it
          is on their bench.
        </p>
        <label htmlFor={id} className="caption mt-3 block">
          What to give
        </label>
        <select
          id={id}
          className="select select-sm w-72 bg-base-100"
          value={key}
          onChange={(event) => setChosen(event.target.value)}
        >
          {items.map(([name, list]) => (
            <optgroup key={name} label={name}>
              {list.map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </optgroup>
          ))}
        </select>
        {link && !link.ok && <p className="mt-2 text-error">{link.problem}</p>}
        {link?.ok && (
          <>
            <textarea
              readOnly
              rows={3}
              aria-label="The link"
              className="number textarea mt-2 w-full text-[0.78rem] leading-snug"
              value={link.value}
              onFocus={(event) => event.target.select()}
            />
            <div className="mt-1 flex items-center gap-3">
              <button type="button" className="btn btn-primary btn-sm" onClick={copy}>
                Copy the link
              </button>
              <span className="caption">{link.value.length} letters</span>
            </div>
          </>
        )}
      </section>
      <TakeIn />
    </div>
  );
}

const chosenOf = (key: string): GiftOf => {
  const [kind = "pose", ...id] = key.split(" ");
  return { kind: kind as GiftOf["kind"], id: id.join(" ") };
};

/** A link that was made at another address is pasted: what it holds is the same. */
function TakeIn() {
  const [text, setText] = useState("");
  const id = useId();
  const gift = text.trim() === "" ? null : giftIn(text);
  return (
    <section className="sheet" aria-label="Take in a link">
      <h2 className="heading">Somebody gave you one</h2>
      <p className="mt-1">Open it, or paste it here: it may have been made at another address than yours.</p>
      <label htmlFor={id} className="caption mt-3 block">
        The link
      </label>
      <input
        id={id}
        className="number input input-sm w-full"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {gift && !gift.ok && <p className="mt-2 text-error">{gift.problem}</p>}
      {gift?.ok && <GiftSheet key={text} gift={gift} onDone={() => setText("")} />}
    </section>
  );
}

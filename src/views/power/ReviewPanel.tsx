import { type Found, rules, type Weight } from "@core/power";
import { setWiring } from "@core/project";
import { edit } from "@stores/document";
import { powerView } from "@stores/powerView";

const weightWords: Readonly<Record<Weight, string>> = {
  harm: "May burn or break",
  fails: "Does not work",
  mind: "Worth knowing",
};
const looks: Readonly<Record<Weight, string>> = {
  harm: "border-error text-error",
  fails: "border-warning text-warning",
  mind: "border-secondary text-secondary",
};

/** What the rules have to say, worst first, each with its reason and its ways out. */
export function ReviewPanel({ found, isEmpty }: { readonly found: readonly Found[]; readonly isEmpty: boolean }) {
  if (isEmpty) return <p className="caption">A review begins once something is fed by something.</p>;
  if (found.length === 0)
    return (
      <div data-review="clean">
        <p className="font-semibold">Nothing is wrong with it, as far as it is known.</p>
        <p className="caption mt-1">
          {Object.values(rules).length} rules were asked:{" "}
          {Object.values(rules)
            .map(({ name }) => name.toLowerCase())
            .join(", ")}
          . Currents that nobody has measured are those of a model; measure the largest of them.
        </p>
      </div>
    );
  return (
    <ol className="space-y-3" aria-label="What the review found, worst first">
      {found.map((one) => (
        <Concern key={`${one.rule} ${one.about.kind} ${one.about.id} ${one.sentence}`} found={one} />
      ))}
    </ol>
  );
}

function Concern({ found }: { readonly found: Found }) {
  const { rule, weight, about, sentence, advice, waysOut } = found;
  return (
    <li className="sheet p-3" data-concern={rule}>
      <div className="flex items-center gap-2">
        <span className={`rounded-sm border px-1.5 text-xs font-semibold ${looks[weight]}`}>{weightWords[weight]}</span>
        <button
          type="button"
          className="btn btn-ghost btn-xs ml-auto"
          aria-label={`Show where: ${sentence}`}
          onClick={() => powerView.setState({ chosen: about })}
        >
          Show
        </button>
      </div>
      <h3 className="heading mt-1 text-sm">{rules[rule].name}</h3>
      <p className="text-sm">{sentence}</p>
      <p className="caption mt-1">{rules[rule].why}</p>
      {advice && <p className="mt-1 text-sm">{advice}</p>}
      {waysOut.length > 0 && (
        <div className="mt-2 flex flex-wrap gap-1.5">
          {waysOut.map(({ words, wiring }) => (
            <button
              key={words}
              type="button"
              className="btn btn-xs btn-outline h-auto min-h-6 py-0.5"
              onClick={() => edit(setWiring(words, wiring))}
            >
              {words}
            </button>
          ))}
        </div>
      )}
    </li>
  );
}

import { type Pose, placePose } from "@core/project";
import { edit, projectNow, useProject } from "@stores/document";
import { choosePose, posesView, usePosesView } from "@stores/posesView";
import { type DragEvent, type KeyboardEvent, type MouseEvent, useEffect, useRef, useState } from "react";
import { PosePicture } from "../figure/PosePicture";
import { useScene } from "../figure/useScene";
import { counted } from "../parts/format";

const matches = (pose: Pose, search: string) =>
  `${pose.name} ${pose.group}`.toLowerCase().includes(search.trim().toLowerCase());

/** The poses that are found, under their headings, in the order of the project. */
function grouped(poses: readonly Pose[], search: string): readonly (readonly [string, readonly Pose[]])[] {
  const groups = new Map<string, Pose[]>();
  for (const pose of poses) {
    if (!matches(pose, search)) continue;
    const group = groups.get(pose.group) ?? [];
    group.push(pose);
    groups.set(pose.group, group);
  }
  return [...groups];
}

/** All poses with their pictures: searched, chosen one or several, and put in order by dragging or with Alt and the arrow keys. */
export function PoseList({ shownId }: { readonly shownId: string | null }) {
  const all = useProject((project) => project.poses);
  const scene = useScene();
  const search = usePosesView((view) => view.search);
  const chosenIds = usePosesView((view) => view.chosenIds);
  const [overId, setOverId] = useState<string | null>(null);
  const list = useRef<HTMLElement>(null);
  // What is shown comes into view once, when it is shown: one that has just been captured is the last.
  useEffect(() => {
    if (shownId)
      list.current?.querySelector(`[data-pose="${CSS.escape(shownId)}"]`)?.scrollIntoView({ block: "nearest" });
  }, [shownId]);
  const groups = grouped(all, search);
  const order = groups.flatMap(([, poses]) => poses.map((pose) => pose.id));
  const onClick = (id: string) => (event: MouseEvent) =>
    choosePose(id, event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "toggle" : "alone", order);
  const onKeyDown = (id: string) => (event: KeyboardEvent<HTMLButtonElement>) => {
    const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    const next = order[order.indexOf(id) + by];
    if (event.altKey) {
      const beforeId = by > 0 ? (order[order.indexOf(id) + 2] ?? null) : (next ?? null);
      if (next) edit(placePose(id, beforeId));
      return;
    }
    if (!next) return;
    choosePose(next, event.shiftKey ? "range" : "alone", order);
    event.currentTarget.closest("nav")?.querySelector<HTMLElement>(`[data-pose="${next}"]`)?.focus();
  };
  const onDrop = (beforeId: string) => (event: DragEvent) => {
    event.preventDefault();
    setOverId(null);
    const id = event.dataTransfer.getData("text/vantel-pose");
    if (projectNow().poses.some((pose) => pose.id === id)) edit(placePose(id, beforeId));
  };
  return (
    <div className="flex min-h-0 flex-col">
      <input
        type="search"
        className="input input-sm mb-2 w-full bg-base-100"
        placeholder="Find a pose"
        aria-label="Find a pose"
        value={search}
        onChange={(event) => posesView.setState({ search: event.target.value })}
      />
      <nav ref={list} className="min-h-0 grow overflow-y-auto shows-more" aria-label="Poses">
        {groups.length === 0 && <p className="caption px-2">No pose is called that.</p>}
        {groups.map(([group, poses]) => (
          <section key={group}>
            {group && <h2 className="caption mt-1 border-b border-base-300 px-2 font-semibold">{group}</h2>}
            <ul>
              {poses.map((pose) => (
                <li key={pose.id} className={overId === pose.id ? "border-t-2 border-primary" : undefined}>
                  <button
                    type="button"
                    draggable
                    data-pose={pose.id}
                    aria-current={pose.id === shownId}
                    aria-pressed={chosenIds.includes(pose.id)}
                    className={`flex w-full cursor-pointer items-center gap-2 border-l-4 px-2 py-0.5 text-left ${pose.id === shownId ? "border-primary bg-base-200 font-semibold" : chosenIds.includes(pose.id) ? "border-primary/60 bg-base-200/80" : "border-transparent hover:bg-base-200/70"}`}
                    onClick={onClick(pose.id)}
                    onKeyDown={onKeyDown(pose.id)}
                    onDragStart={(event) => event.dataTransfer.setData("text/vantel-pose", pose.id)}
                    onDragOver={(event) => {
                      event.preventDefault();
                      setOverId(pose.id);
                    }}
                    onDragLeave={() => setOverId(null)}
                    onDrop={onDrop(pose.id)}
                  >
                    <PosePicture
                      scene={scene}
                      targets={pose.targets}
                      label=""
                      className="h-9 w-12 shrink-0 rounded-field bg-scene-sky"
                    />
                    <span className="min-w-0 grow leading-tight">
                      <span className="block truncate">{pose.name}</span>
                      <span className="caption block">{counted(Object.keys(pose.targets).length, "joint")}</span>
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </nav>
      <p className="caption mt-1">Ctrl or Shift chooses several; Alt with ↑ ↓ puts one elsewhere.</p>
    </div>
  );
}

import { renameProject } from "@core/project";
import { problem } from "@core/result";
import { edit, useProject } from "@stores/document";
import { keepingStore } from "@stores/keeping";
import { notify } from "@stores/notices";
import {
  damagedProject,
  exportProject,
  importProject,
  listProjects,
  openDemo,
  openEmpty,
  openProject,
  removeProject,
} from "@stores/session";
import { useCallback, useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import { formatDate } from "../parts/format";
import { NameField } from "../parts/NameField";
import { saveFile } from "../parts/saveFile";

/** What lies behind the project’s name. */
export default function ProjectMenuBody({ onDone }: { readonly onDone: () => void }) {
  const project = useProject((current) => current);
  const file = useRef<HTMLInputElement>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const { mayBeCleared } = useStore(keepingStore);

  const takeFile = async (chosen: File | undefined) => {
    if (!chosen) return;
    const read = await chosen
      .text()
      .then(importProject)
      .catch((error) => problem(`It could not be read, or not be kept (${error}).`));
    if (!read.ok) {
      setTrouble(`${chosen.name}: ${read.problem} Nothing was changed.`);
      return;
    }
    notify(`${chosen.name} lies on the bench. The project from before is kept in this browser.`);
    onDone();
  };

  return (
    <div className="space-y-3">
      <NameField
        label="Name of the project"
        value={project.name}
        onCommit={(name) => edit(renameProject(name))}
        className="heading w-full"
      />
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          onClick={() => {
            const made = exportProject();
            if (made) saveFile(made.name, made.text, "application/json");
          }}
        >
          Export as a file
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => file.current?.click()}>
          Import a file
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => void openDemo().then(onDone)}>
          Fresh demo
        </button>
        <button type="button" className="btn btn-sm btn-outline" onClick={() => void openEmpty().then(onDone)}>
          Empty bench
        </button>
        <input
          ref={file}
          type="file"
          accept=".json,application/json"
          className="hidden"
          aria-label="Project file"
          onChange={(event) => {
            void takeFile(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
      </div>
      {trouble && (
        <p role="alert" className="text-sm text-error">
          {trouble}
        </p>
      )}
      <OtherProjects openId={project.id} onDone={onDone} />
      {mayBeCleared && (
        <p className="caption">
          This browser may clear what it keeps when the disk is nearly full. Export what you would miss.
        </p>
      )}
    </div>
  );
}

type Summary = Awaited<ReturnType<typeof listProjects>>[number];

function OtherProjects({ openId, onDone }: { readonly openId: string; readonly onDone: () => void }) {
  const [kept, setKept] = useState<readonly Summary[]>([]);
  const [damaged, setDamaged] = useState<string | null>(null);
  const look = useCallback(() => void listProjects().then(setKept, () => setKept([])), []);
  useEffect(look, [look]);
  const others = kept.filter((summary) => summary.id !== openId);
  if (others.length === 0) return <p className="caption">No other project is kept in this browser.</p>;
  const open = async (summary: Summary) => {
    const opened = await openProject(summary.id);
    if (opened.ok) onDone();
    else {
      setDamaged(summary.id);
      notify(opened.problem, "warning");
    }
  };
  const rescue = async ({ id, name }: Summary) =>
    saveFile(`${name} as it lies.json`, await damagedProject(id), "application/json");
  return (
    <div>
      <p className="caption mb-1">Also kept in this browser</p>
      <ul className="max-h-52 overflow-y-auto shows-more">
        {others.map((summary) => (
          <li key={summary.id} className="flex items-center gap-2">
            <button
              type="button"
              className="btn btn-ghost btn-sm min-w-0 grow justify-start font-normal"
              onClick={() => void open(summary)}
            >
              <span className="truncate">{summary.name}</span>
              {summary.id !== damaged && (
                <span className="caption ml-auto shrink-0">{formatDate(new Date(summary.savedAt).toISOString())}</span>
              )}
            </button>
            {summary.id === damaged && (
              <button type="button" className="btn btn-outline btn-xs" onClick={() => void rescue(summary)}>
                Save it as it lies
              </button>
            )}
            <DeleteButton name={summary.name} onDelete={() => void removeProject(summary.id).then(look)} />
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Deleting a project cannot be undone, so it is asked for twice. */
function DeleteButton({ name, onDelete }: { readonly name: string; readonly onDelete: () => void }) {
  const [isAsked, setIsAsked] = useState(false);
  return (
    <button
      type="button"
      className={`btn btn-xs ${isAsked ? "btn-error" : "btn-ghost"}`}
      aria-label={isAsked ? `Really delete ${name}` : `Delete ${name}`}
      onBlur={() => setIsAsked(false)}
      onClick={() => (isAsked ? onDelete() : setIsAsked(true))}
    >
      {isAsked ? "For good?" : "Delete"}
    </button>
  );
}

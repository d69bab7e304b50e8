import {
  baseName,
  figureOfUrdf,
  matchedByName,
  readMesh,
  readUrdf,
  type UrdfMachine,
  urdfOf,
  withFreshIds,
} from "@core/figure";
import { addParts, type Figure, here, type Joint, type Rig, setFigure } from "@core/project";
import type { Mesh } from "@core/shapes";
import { edit, newId, projectNow, useProject } from "@stores/document";
import { figureView } from "@stores/figureView";
import { openTab } from "@stores/stationTabs";
import { type ChangeEvent, useState } from "react";
import { ChoiceField } from "../parts/ChoiceField";
import { formatNumber } from "../parts/format";
import { saveBytes, saveFile } from "../parts/saveFile";

interface FilePanelProps {
  readonly rig: Rig;
  readonly figure: Figure | null;
}

/** A file that was opened, before anything of it is taken. */
interface Opened {
  readonly machine: UrdfMachine;
  readonly meshes: ReadonlyMap<string, Mesh>;
  readonly matched: Readonly<Record<string, string | null>>;
}

/** The figure out to a URDF file, one in from a file, and surfaces from STL and OBJ files. */
export function FilePanel({ rig, figure }: FilePanelProps) {
  const joints = useProject((project) => project.joints).filter(({ rigId }) => rigId === rig.id);
  const [opened, setOpened] = useState<Opened | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const open = async (event: ChangeEvent<HTMLInputElement>) => {
    const files = [...(event.target.files ?? [])];
    event.target.value = "";
    setOpened(null);
    const read = await openedFrom(files, joints);
    setTrouble(typeof read === "string" ? read : null);
    if (typeof read !== "string") setOpened(read);
  };
  return (
    <div className="flex flex-col gap-4">
      <section className="flex flex-col gap-2">
        <h2 className="heading">Out</h2>
        <p className="caption">
          URDF is an open format for machines of links and joints. What it has no words for stands in the file as well,
          and comes back from it.
        </p>
        <button
          type="button"
          className="btn btn-sm btn-outline self-start"
          disabled={!figure}
          onClick={() => figure && void exportUrdf(figure)}
        >
          Export {figure ? figure.label : "a figure"} as URDF
        </button>
      </section>
      <section className="flex flex-col gap-2">
        <h2 className="heading">In</h2>
        <label className="block">
          <span className="caption mb-0.5 block">A URDF file, together with the STL and OBJ files that it names</span>
          <input
            type="file"
            multiple
            accept=".urdf,.xml,.stl,.obj"
            className="file-input file-input-sm w-full bg-base-100"
            onChange={(event) => void open(event)}
          />
        </label>
        {trouble && (
          <p role="alert" className="text-sm text-error">
            {trouble}
          </p>
        )}
        {opened && (
          <Look
            opened={opened}
            rig={rig}
            joints={joints}
            hasFigure={figure !== null}
            onMatch={(name, jointId) => setOpened({ ...opened, matched: { ...opened.matched, [name]: jointId } })}
            onDone={(refusal) => {
              setTrouble(refusal);
              if (refusal === null) setOpened(null);
            }}
          />
        )}
      </section>
      {figure && <SurfaceSection figure={figure} onTrouble={setTrouble} />}
    </div>
  );
}

async function openedFrom(files: readonly File[], joints: readonly Joint[]): Promise<Opened | string> {
  const urdf = files.find(({ name }) => /\.(urdf|xml)$/i.test(name));
  if (!urdf) return "Choose the URDF file as well: the surfaces alone say nothing of joints.";
  const read = readUrdf(await urdf.text());
  if (!read.ok) return read.problem;
  const meshes = new Map<string, Mesh>();
  for (const file of files) {
    if (file === urdf) continue;
    const mesh = readMesh(file.name, new Uint8Array(await file.arrayBuffer()), 1000, newId());
    if (!mesh.ok) return mesh.problem;
    meshes.set(baseName(file.name), mesh.value);
  }
  return { machine: read.value, meshes, matched: matchedByName(read.value, joints) };
}

async function exportUrdf(figure: Figure): Promise<void> {
  const { text, meshes } = urdfOf(projectNow(), figure);
  const name = figure.label.replace(/[^\w-]+/g, "-").toLowerCase() || "figure";
  if (meshes.length === 0) {
    saveFile(`${name}.urdf`, text, "application/xml");
    return;
  }
  const { strToU8, zipSync } = await import("fflate");
  const files = Object.fromEntries(meshes.map((mesh) => [`meshes/${mesh.name}`, mesh.bytes]));
  saveBytes(`${name}.zip`, zipSync({ [`${name}.urdf`]: strToU8(text), ...files }), "application/zip");
}

/** Parts and tips of all figures but this rig's: a file may be taken in a second time, for another machine. */
function idsOfOthers(rigId: string): ReadonlySet<string> {
  const others = projectNow().figures.filter((figure) => figure.rigId !== rigId);
  return new Set(others.flatMap(({ parts, tips }) => [...parts, ...tips].map(({ id }) => id)));
}

interface LookProps {
  readonly opened: Opened;
  readonly rig: Rig;
  readonly joints: readonly Joint[];
  readonly hasFigure: boolean;
  readonly onMatch: (name: string, jointId: string | null) => void;
  readonly onDone: (refusal: string | null) => void;
}

/** What is in the file, each of its joints beside one of the rig; nothing is taken before the button. */
function Look({ opened, rig, joints, hasFigure, onMatch, onDone }: LookProps) {
  const { machine, meshes, matched } = opened;
  const missing = machine.meshFiles.filter((file) => !meshes.has(file));
  const take = () => {
    const made = figureOfUrdf(machine, rig, matched, meshes, newId);
    if (!made.ok) {
      onDone(made.problem);
      return;
    }
    const used = [...meshes.values()].filter(({ id }) =>
      made.value.parts.some(({ bodies }) => bodies.some(({ shape }) => shape.kind === "mesh" && shape.meshId === id)),
    );
    if (edit(setFigure(withFreshIds(made.value, idsOfOthers(rig.id), newId), used))) {
      onDone(null);
      openTab("figure", "parts");
      figureView.setState({ partId: null, tipId: null });
    }
  };
  return (
    <div className="flex flex-col gap-2 border-l-2 border-primary pl-2" data-urdf-look>
      <p>
        <b>{machine.label}</b>: {machine.partCount} links, {machine.joints.length}{" "}
        {machine.joints.length === 1 ? "joint" : "joints"} that can be moved.
      </p>
      {machine.joints.map(({ name, kind, range }) => (
        <ChoiceField
          key={name}
          label={`${name}: ${kind === "turn" ? "turns" : "slides"}${range ? ` from ${formatNumber(range.low, 0)} to ${formatNumber(range.high, 0)} ${kind === "turn" ? "°" : "mm"}` : " on and on"}`}
          value={matched[name] ?? ""}
          choices={[
            ["", "is moved by nothing yet"],
            ...joints.map(({ id, label }) => [id, `is moved by ${label}`] as const),
          ]}
          onChoose={(id) => onMatch(name, id === "" ? null : id)}
        />
      ))}
      {missing.length > 0 && (
        <p className="text-sm text-warning">
          {missing.slice(0, 4).join(", ")}
          {missing.length > 4 && ` and ${missing.length - 4} more`} {missing.length === 1 ? "is" : "are"} not among the
          files: those bodies will be left out.
        </p>
      )}
      <button type="button" className="btn btn-sm btn-primary self-start" onClick={take}>
        {hasFigure ? `Take it in place of the figure of ${rig.label}` : "Take it"}
      </button>
    </div>
  );
}

/** A surface of one's own on a part of its own, to be hung where it belongs. */
function SurfaceSection({
  figure,
  onTrouble,
}: {
  readonly figure: Figure;
  readonly onTrouble: (trouble: string | null) => void;
}) {
  const open = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) return;
    const mesh = readMesh(file.name, new Uint8Array(await file.arrayBuffer()), 1, newId());
    onTrouble(mesh.ok ? null : mesh.problem);
    if (!mesh.ok) return;
    const id = newId();
    const part = {
      id,
      label: mesh.value.label,
      parentId: null,
      place: here,
      motion: { kind: "fixed" },
      massG: 20,
      centreMm: here.atMm,
      inertiaGMm2: null,
    } as const;
    const body = {
      place: here,
      shape: { kind: "mesh", meshId: mesh.value.id, scale: [1, 1, 1] },
      color: "#8fa39c",
      isSolid: true,
    } as const;
    if (edit(addParts(figure.id, [{ ...part, bodies: [body] }], [], [mesh.value]))) {
      openTab("figure", "parts");
      figureView.setState({ partId: id });
    }
  };
  return (
    <section className="flex flex-col gap-2">
      <h2 className="heading">A surface</h2>
      <label className="block">
        <span className="caption mb-0.5 block">An STL or OBJ file in mm, as a new part</span>
        <input
          type="file"
          accept=".stl,.obj"
          className="file-input file-input-sm w-full bg-base-100"
          onChange={(event) => void open(event)}
        />
      </label>
    </section>
  );
}

import {
  boardHeadMm,
  type CardsPage,
  type CuePage,
  cueRowMm,
  notesOnPaper,
  type PosesPage,
  plugRowMm,
  poseHeadMm,
  poseLineMm,
  type WiringPage,
  widthMm,
} from "@core/handOff";
import { byId, type Project } from "@core/project";
import { jointMapOf } from "@core/rig";
import { CardDrawing } from "../../cards/CardPrint";
import { formatIn, formatNumber } from "../../parts/format";
import { PoseFan } from "./PoseFan";

const width = { width: `${widthMm}mm` };

/** Who is on which channel: each board as a strip of plugs. */
export const WiringDrawing = ({ page }: { readonly page: WiringPage }) => (
  <div style={width}>
    {page.blocks.map(({ board, about, goesOn, rows }) => (
      <section key={`${board}-${rows[0]?.channel}`}>
        <h2 className="flex items-baseline gap-[3mm] pt-[2mm]" style={{ height: `${boardHeadMm - 6}mm` }}>
          <strong className="text-[13pt]">
            {board}
            {goesOn ? ", continued" : ""}
          </strong>
          <span className="text-[8.5pt]">{about}</span>
        </h2>
        <table className="w-full table-fixed border-collapse text-[8.5pt]">
          <thead>
            <tr className="border-b-[0.4mm] border-black text-left text-[7pt]" style={{ height: "6mm" }}>
              <th className="w-[9mm] font-normal">no.</th>
              <th className="w-[44mm] font-normal">joint, servo</th>
              <th className="w-[25mm] font-normal">wires</th>
              <th className="font-normal">lower limit: signal, count</th>
              <th className="font-normal">home: signal, count</th>
              <th className="font-normal">upper limit: signal, count</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr
                key={row.channel}
                className="border-b border-black/40 align-middle"
                style={{ height: `${plugRowMm}mm` }}
              >
                <td className="number text-[12pt] font-semibold">{row.channel}</td>
                <td>
                  <div className="truncate font-semibold">{row.joint}</div>
                  <div className="truncate text-[7.5pt]">
                    {row.servo}; {row.rig}
                  </div>
                </td>
                <td className="text-[7.5pt] leading-tight">{row.wires.join(", ")}</td>
                {[row.low, row.home, row.high].map((words, at) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: three cells in their order.
                  <td key={at} className="number text-[7.5pt] leading-tight">
                    {words}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    ))}
  </div>
);

/** Cards, as they go into the box with the servo. */
export const CardsDrawing = ({ page, project }: { readonly page: CardsPage; readonly project: Project }) => (
  <div>
    {page.cards.map(({ cardId, jointId }) => {
      const card = byId(project.cards, cardId);
      return (
        <CardDrawing
          key={`${cardId}-${jointId}`}
          card={{ ...card, notes: notesOnPaper(card.notes) }}
          joint={project.joints.find(({ id }) => id === jointId) ?? null}
        />
      );
    })}
  </div>
);

/** Poses with their pictures, and what each asks of its joints. */
export const PosesDrawing = ({ page, project }: { readonly page: PosesPage; readonly project: Project }) => (
  <div style={width}>
    {page.poseIds.map((id) => {
      const pose = byId(project.poses, id);
      const joints = project.joints.filter((joint) => pose.targets[joint.id] !== undefined);
      return (
        <section key={id} className="mb-[3mm] border-b border-black/40">
          <h2 className="flex items-center gap-[4mm]" style={{ height: `${poseHeadMm}mm` }}>
            <span className="number w-[7mm] text-[9pt]">{project.poses.indexOf(pose) + 1}</span>
            <strong className="w-[52mm] truncate text-[11pt]">{pose.name}</strong>
            <span className="origin-left scale-150">
              <PoseFan project={project} targets={pose.targets} />
            </span>
          </h2>
          <ul className="grid grid-cols-3 pl-[11mm]">
            {joints.map((joint) => {
              const { targetUnit } = jointMapOf(joint, byId(project.cards, joint.cardId));
              return (
                <li key={joint.id} className="flex gap-[2mm] text-[8.5pt]" style={{ height: `${poseLineMm}mm` }}>
                  <span className="max-w-[32mm] truncate">{joint.label}</span>
                  <span className="number">{formatIn(pose.targets[joint.id] ?? Number.NaN, targetUnit)}</span>
                </li>
              );
            })}
          </ul>
        </section>
      );
    })}
  </div>
);

/** A moment of the show: minutes, seconds, tenths. */
const clock = (ms: number) =>
  `${Math.floor(ms / 60_000)}:${String(Math.floor((ms % 60_000) / 1000)).padStart(2, "0")}.${Math.floor((ms % 1000) / 100)}`;
const inS = (ms: number | null) => (ms === null ? "" : formatNumber(ms / 1000, 2));

/** A routine as a cue sheet: what every joint does over the time, and step by step when. */
export const CueDrawing = ({ page, project }: { readonly page: CuePage; readonly project: Project }) => (
  <div style={width}>
    <h2 className="flex items-baseline gap-[3mm] pt-[2mm]" style={{ height: "12mm" }}>
      <strong className="text-[13pt]">
        {page.routine}
        {page.strip || page.problem ? "" : ", continued"}
      </strong>
      <span className="text-[8.5pt]">{page.about}</span>
    </h2>
    {page.problem && <p>{page.problem}</p>}
    {page.strip && <Strip strip={page.strip} />}
    {page.rows.length > 0 && (
      <table className="w-full table-fixed border-collapse text-[9pt]">
        <thead>
          <tr className="border-b-[0.4mm] border-black text-left text-[7pt]" style={{ height: "7mm" }}>
            <th className="w-[9mm] font-normal">cue</th>
            <th className="w-[17mm] font-normal">at</th>
            <th className="w-[46mm] font-normal">what</th>
            <th className="w-[42mm] font-normal">pose</th>
            <th className="w-[14mm] font-normal">move s</th>
            <th className="w-[14mm] font-normal">hold s</th>
            <th className="font-normal">how</th>
          </tr>
        </thead>
        <tbody>
          {page.rows.map((row) => (
            <tr key={row.number} className="border-b border-black/40" style={{ height: `${cueRowMm}mm` }}>
              <td className="number">{row.number}</td>
              <td className="number font-semibold">{clock(row.atMs)}</td>
              <td className="truncate">{row.words}</td>
              <td>{row.poseId && <PoseFan project={project} targets={byId(project.poses, row.poseId).targets} />}</td>
              <td className="number">{inS(row.moveMs)}</td>
              <td className="number">{inS(row.holdMs)}</td>
              <td className="truncate text-[7.5pt]">{row.how}</td>
            </tr>
          ))}
        </tbody>
      </table>
    )}
  </div>
);

const leftMm = 34;
const laneMm = 8;

/** Every joint over the whole routine, from limit to limit. */
function Strip({ strip: { lengthMs, joints } }: { readonly strip: NonNullable<CuePage["strip"]> }) {
  const wide = widthMm - leftMm - 2;
  const stepS = niceStep(lengthMs / 1000);
  const marks = Array.from({ length: Math.floor(lengthMs / 1000 / stepS) + 1 }, (_, at) => at * stepS);
  const heightMm = joints.length * laneMm;
  return (
    <svg
      width={`${widthMm}mm`}
      height={`${heightMm + 10}mm`}
      viewBox={`0 0 ${widthMm} ${heightMm + 10}`}
      fill="none"
      stroke="#000"
      role="img"
      aria-label="What each joint does over the time"
    >
      {marks.map((s) => {
        const x = leftMm + (lengthMs > 0 ? (s * 1000) / lengthMs : 0) * wide;
        return (
          <g key={s}>
            <path d={`M${x} 0V${heightMm + 1.5}`} strokeWidth={0.1} strokeDasharray="0.6 0.8" />
            <text x={x} y={heightMm + 5} fontSize={2.8} textAnchor="middle" stroke="none" fill="#000">
              {s}
            </text>
          </g>
        );
      })}
      <text x={leftMm - 2} y={heightMm + 5} fontSize={2.8} textAnchor="end" stroke="none" fill="#000">
        seconds
      </text>
      {joints.map(({ label, shares }, at) => {
        const top = at * laneMm + 1;
        const high = laneMm - 2;
        const points = shares.map(
          (share, place) =>
            `${(leftMm + (place / (shares.length - 1)) * wide).toFixed(2)},${(top + (1 - share) * high).toFixed(2)}`,
        );
        return (
          <g key={label}>
            <text x={0} y={top + high / 2 + 1} fontSize={3} stroke="none" fill="#000">
              {label.slice(0, 20)}
            </text>
            <rect x={leftMm} y={top} width={wide} height={high} strokeWidth={0.1} />
            <polyline points={points.join(" ")} strokeWidth={0.35} strokeLinejoin="round" />
          </g>
        );
      })}
    </svg>
  );
}

/** About ten marks at round seconds. */
function niceStep(lengthS: number): number {
  const rough = Math.max(lengthS / 10, 0.1);
  const power = 10 ** Math.floor(Math.log10(rough));
  return Number((power * ([1, 2, 5, 10].find((one) => one * power >= rough) ?? 10)).toPrecision(3));
}

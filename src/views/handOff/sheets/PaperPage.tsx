import { footMm, marginMm, type Paper, papers } from "@core/handOff";
import type { ReactNode } from "react";

interface PaperPageProps {
  readonly paper: Paper;
  readonly project: string;
  readonly title: string;
  readonly date: string;
  readonly number: number;
  readonly of: number;
  /** How large things on it are drawn, in words. */
  readonly scale: string;
  readonly children: ReactNode;
}

/** One page like a workshop drawing: a frame, what is drawn, and a title block at its foot. */
export function PaperPage({ paper, project, title, date, number, of, scale, children }: PaperPageProps) {
  const { widthMm, heightMm } = papers[paper];
  return (
    <article
      className="paper"
      style={{ width: `${widthMm}mm`, height: `${heightMm}mm`, padding: `${marginMm}mm` }}
      aria-label={`Page ${number} of ${of}: ${title}`}
    >
      <div className="flex h-full flex-col border-[0.5mm] border-black">
        <div className="flex min-h-0 grow flex-col items-center overflow-hidden pt-[4mm]">{children}</div>
        <div
          className="grid shrink-0 grid-cols-[2fr_2fr_1fr_1fr] border-t-[0.5mm] border-black"
          style={{ height: `${footMm}mm` }}
        >
          <TitleCell name="project">{project}</TitleCell>
          <TitleCell name="sheet">{title}</TitleCell>
          <TitleCell name="scale">{scale}</TitleCell>
          <TitleCell name={`page, ${date}`}>
            {number} of {of}
          </TitleCell>
        </div>
      </div>
    </article>
  );
}

const TitleCell = ({ name, children }: { readonly name: string; readonly children: ReactNode }) => (
  <div className="min-w-0 border-r border-black/60 px-[2mm] py-[1mm] last:border-r-0">
    <div className="text-[6.5pt] leading-tight">{name}</div>
    <div className="line-clamp-2 text-[10.5pt] leading-tight font-semibold">{children}</div>
  </div>
);

import { partFrame, placeOf, pointIn, type ReachCloud, stand, standing } from "@core/figure";
import { changePart, type Figure, homeTargetOf, type Rig, setThing } from "@core/project";
import type { Vector } from "@core/shapes";
import { edit, projectNow, useProject } from "@stores/document";
import { figureView, useFigureView } from "@stores/figureView";
import { askFigure } from "@stores/figureWork";
import { ghostNow, showGhost } from "@stores/ghost";
import { useSelectedJoint } from "@stores/selection";
import { openTab, type TabOf, tabsOf, useOpenTab } from "@stores/stationTabs";
import { useEffect, useMemo, useRef, useState } from "react";
import { useStore } from "zustand";
import { Opened } from "../parts/Opened";
import { TabPanel, TabStrip } from "../parts/TabStrip";
import { AroundPanel } from "./AroundPanel";
import { Beginnings } from "./Beginnings";
import { FigureStage, type Handle } from "./FigureStage";
import { FilePanel } from "./FilePanel";
import { HandPanel } from "./HandPanel";
import { Hand, handStore } from "./hand";
import { actualOf } from "./liveTargets";
import { Lookout, outlooks } from "./lookout";
import { PartsPanel } from "./PartsPanel";
import { type Scene, useScene } from "./useScene";
import { WeightPanel } from "./WeightPanel";

/** In steps of so many mm parts and things are dragged. */
const snapMm = 5;

/** The machine itself: seen, taken by the hand, made, weighed. */
export default function FigureStation() {
  return (
    <Opened isStation>
      <Station />
    </Opened>
  );
}

function Station() {
  const scene = useScene();
  const rigs = useProject((project) => project.rigs);
  const selected = useSelectedJoint();
  const chosenRigId = useFigureView((view) => view.rigId);
  const rig =
    rigs.find(({ id }) => id === chosenRigId) ?? rigs.find(({ id }) => id === selected?.rigId) ?? rigs[0] ?? null;
  const figure = useProject((project) => project.figures).find(({ rigId }) => rigId === rig?.id) ?? null;
  const tab = useOpenTab("figure");
  const partId = useFigureView((view) => view.partId);
  const thingId = useFigureView((view) => view.thingId);
  const [lookout] = useState(() => new Lookout({ middleMm: [0, 0, 120], farMm: 1200, ...outlooks[3] }));
  const [showsCarry, setShowsCarry] = useState(false);
  const hand = useHand(scene, figure);
  const meetings = useStore(handStore, (state) => state.meetings);
  const cloud = useCloud(hand, tab === "weight" && showsCarry ? "carry" : tab === "hand" ? "reach" : null);
  const handles = useHandles(scene, figure, hand, tab);
  useEffect(() => () => showGhost(null), []);
  return (
    <div className="flex h-full flex-col">
      <header className="mb-3 flex items-center gap-2">
        <h1 className="text-[1.45rem] leading-none font-bold tracking-tight">Figure</h1>
        <p className="caption mr-auto">The machine itself, and a hand to move it by.</p>
        {rigs.length > 1 && rig && (
          <div className="flex items-center gap-2 text-sm">
            <span aria-hidden="true">Whose figure</span>
            <select
              aria-label="Whose figure"
              className="select select-sm w-44 bg-base-100"
              value={rig.id}
              onChange={(event) => figureView.setState({ rigId: event.target.value, partId: null, tipId: null })}
            >
              {rigs.map(({ id, label }) => (
                <option key={id} value={id}>
                  {label}
                </option>
              ))}
            </select>
          </div>
        )}
      </header>
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_22rem] gap-4">
        <FigureStage
          scene={scene}
          lookout={lookout}
          partId={tab === "parts" ? partId : null}
          thingId={tab === "around" ? thingId : null}
          jointId={selected?.id ?? null}
          meetings={meetings}
          cloud={cloud}
          handles={handles}
          className="min-h-0"
        />
        <div className="flex min-h-0 flex-col">
          <TabStrip
            label="What is done with it"
            tabs={tabsOf("figure")}
            chosen={tab}
            onChoose={(next) => openTab("figure", next)}
            panelId="figure-panel"
          />
          <TabPanel
            id="figure-panel"
            tab={tab}
            className="min-h-0 grow overflow-y-auto shows-more pt-3 pr-1"
            tabIndex={0}
          >
            <PanelOf
              tab={tab}
              rig={rig}
              figure={figure}
              scene={scene}
              hand={hand}
              showsCarry={showsCarry}
              onCarry={setShowsCarry}
            />
          </TabPanel>
        </div>
      </div>
    </div>
  );
}

interface PanelOfProps {
  readonly tab: TabOf<"figure">;
  readonly rig: Rig | null;
  readonly figure: Figure | null;
  readonly scene: Scene;
  readonly hand: Hand | null;
  readonly showsCarry: boolean;
  readonly onCarry: (isOn: boolean) => void;
}

function PanelOf({ tab, rig, figure, scene, hand, showsCarry, onCarry }: PanelOfProps) {
  if (tab === "around") return <AroundPanel />;
  if (!rig) return <p>The table is empty. Add a joint in the rack; its rig can then be given a figure.</p>;
  if (tab === "file") return <FilePanel rig={rig} figure={figure} />;
  if (!figure) return <Beginnings rig={rig} />;
  if (tab === "parts") return <PartsPanel figure={figure} joints={scene.joints} meshOf={scene.meshOf} />;
  if (tab === "weight")
    return (
      <WeightPanel figure={figure} scene={scene} showsCarry={showsCarry} onCloud={(kind) => onCarry(kind !== null)} />
    );
  return <HandPanel figure={figure} hand={hand} />;
}

/** The tip that is taken by the hand; made anew when the figure, or what stands around, is another. */
function useHand(scene: Scene, figure: Figure | null): Hand | null {
  const tipId = useFigureView((view) => view.tipId);
  const things = useProject((project) => project.things);
  const tip = figure?.tips.find(({ id }) => id === tipId) ?? figure?.tips[0] ?? null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: things are among what the hand may meet.
  const hand = useMemo(
    () => (figure && tip ? new Hand(projectNow(), scene, figure, tip) : null),
    [scene, figure, tip, things],
  );
  useEffect(() => {
    if (hand) hand.lookAgain();
    else handStore.setState({ reached: null, meetings: [] });
  }, [hand]);
  return hand;
}

/** What can be reached, or carried, worked out in the worker. */
function useCloud(hand: Hand | null, kind: "reach" | "carry" | null): ReachCloud | null {
  const showsReach = useFigureView((view) => view.showsReach);
  const [cloud, setCloud] = useState<ReachCloud | null>(null);
  const isShown = kind === "carry" || (kind === "reach" && showsReach);
  useEffect(() => {
    setCloud(null);
    if (!hand || !isShown || !kind || hand.tip.does === "look") return;
    const project = projectNow();
    return askFigure(
      project,
      { kind, tipId: hand.tip.id, carriedG: 0, homes: project.joints.map(homeTargetOf) },
      (news) => {
        if (news.kind === "cloud") setCloud(news.cloud);
      },
    );
  }, [hand, kind, isShown]);
  return cloud;
}

const moved = (from: Vector, by: Vector): Vector => [from[0] + by[0], from[1] + by[1], from[2] + by[2]];
const snapped = (at: Vector): Vector => at.map((value) => Math.round(value / snapMm) * snapMm) as unknown as Vector;

/** What can be taken in the picture: the tip, the chosen part or the chosen thing. */
function useHandles(scene: Scene, figure: Figure | null, hand: Hand | null, tab: TabOf<"figure">): readonly Handle[] {
  const partId = useFigureView((view) => view.partId);
  const thingId = useFigureView((view) => view.thingId);
  const things = useProject((project) => project.things);
  const from = useRef<Vector>([0, 0, 0]);
  return useMemo(() => {
    if (tab === "hand" && hand)
      return [
        {
          id: "tip",
          label: hand.tip.label,
          look: hand.tip.does === "look" ? "look" : "tip",
          atMm: () => {
            if (!ghostNow()) hand.begin();
            return hand.handleMm();
          },
          onBegin: () => {
            hand.begin();
            from.current = hand.handleMm();
          },
          onMove: (byMm, isOver) =>
            hand.pull(hand.aimAt(moved(from.current, byMm), figureView.getState().keepsDirection), isOver),
        },
      ];
    const part = figure?.parts.find(({ id }) => id === partId);
    if (tab === "parts" && figure && part) {
      const now = standing(scene.assembly);
      const place = placeOf(scene.assembly, part.id);
      const at = new Float64Array(3);
      const stands = () => {
        scene.joints.forEach((joint, index) => {
          now.targets[index] = actualOf(joint);
        });
        stand(now);
      };
      return [
        {
          id: "part",
          label: part.label,
          look: "part",
          atMm: () => {
            stands();
            pointIn(now.frames, partFrame(place), [0, 0, 0], at);
            return [at[0] as number, at[1] as number, at[2] as number];
          },
          onBegin: () => {
            from.current = part.place.atMm;
          },
          onMove: (byMm) => {
            // A way in the world, in the directions of what the part hangs on.
            const parent = scene.assembly.parents[place] ?? -1;
            const f = parent < 0 ? null : now.frames.subarray(partFrame(parent), partFrame(parent) + 9);
            const own = f
              ? [0, 1, 2].map((column) =>
                  byMm.reduce((sum, value, row) => sum + value * (f[3 * row + column] as number), 0),
                )
              : byMm;
            const atMm = snapped(moved(from.current, own as unknown as Vector));
            edit(changePart(figure.id, part.id, "place of part", (one) => ({ ...one, place: { ...one.place, atMm } })));
          },
        },
      ];
    }
    const thing = things.find(({ id }) => id === thingId);
    if (tab === "around" && thing)
      return [
        {
          id: "thing",
          label: thing.label,
          look: "thing",
          atMm: () => thing.place.atMm,
          onBegin: () => {
            from.current = thing.place.atMm;
          },
          onMove: (byMm) => {
            edit(
              setThing(
                { ...thing, place: { ...thing.place, atMm: snapped(moved(from.current, byMm)) } },
                "place of thing",
              ),
            );
          },
        },
      ];
    return [];
  }, [scene, figure, hand, tab, partId, thingId, things]) as readonly Handle[];
}

import { demoProject } from "@core/demo";
import {
  addCalibration,
  addCheck,
  byId,
  type Edit,
  type Project,
  setEndStops,
  setFrameHz,
  setSpeedLimit,
  setTravel,
  setWindow,
} from "@core/project";
import { jointBenchOf } from "@core/rig";
import fc from "fast-check";
import { expect, test } from "vitest";
import { cluesOf, type Now, type SymptomId, symptoms, symptomsOf } from ".";

const atBench: Now = { isReal: true, isAnswering: true, isHeld: true };
const demo = demoProject();
const neck = byId(demo.joints, "neck-turn");

function edited(project: Project, ...edits: readonly Edit[]): Project {
  return edits.reduce((before, edit) => {
    const after = edit.apply(before);
    if (!after.ok) throw new Error(after.problem);
    return after.value;
  }, project);
}

function askedOf(project: Project, jointId: string, id: SymptomId, now = atBench) {
  const clues = cluesOf(id, { project, bench: jointBenchOf(project, byId(project.joints, jointId)), now });
  return { clues, known: clues.filter(({ isSo }) => isSo).map(({ place, says }) => `${place}: ${says}`) };
}

/** Two points: its whole travel lies between these pulses. */
const measured = (cardId: string, low: number, high: number): Edit =>
  addCalibration(cardId, {
    kind: "line",
    id: "made-now",
    madeAt: "2026-03-01T10:00:00.000Z",
    note: "",
    points: [
      { angleDeg: 0, setPoint: low },
      { angleDeg: 180, setPoint: high },
    ],
  });

test("a servo that is driven by a narrow data sheet turns half-way, and that is said first", () => {
  const { known, clues } = askedOf(demo, neck.id, "half");
  expect(known[0]).toMatch(
    /^stops: It is driven by its data sheet: 1000 to 2000 µs for 180°\. Many servos need 500 to 2500/,
  );
  expect(clues.at(-1)?.isSo).toBe(false);
});

test("measured, with its stops known, its limits wide and its knob wide, nothing that is known makes it turn half-way", () => {
  const whole = edited(
    { ...demo, leads: [] },
    measured(neck.cardId, 620, 2390),
    setEndStops(neck.cardId, 612, 2401),
    setWindow(neck.cardId, 612, 2400),
    setTravel(neck.id, -88, 88),
  );
  expect(askedOf(whole, neck.id, "half").known).toEqual([]);
  expect(askedOf(whole, neck.id, "grinds").known).toEqual([]);
  const limited = edited(whole, setTravel(neck.id, -40, 40));
  expect(askedOf(limited, neck.id, "half").known).toEqual([
    "limits: Its travel limits, −40° to 40°, leave 44 % of what it was found to turn.",
  ]);
  const narrow = edited(whole, setWindow(neck.cardId, 1200, 1800));
  expect(askedOf(narrow, neck.id, "half").known).toContain(
    "stops: Its hard window, 1200 to 1800 µs, leaves 34 % of what it was found to turn.",
  );
});

test("a lead that asks for a part of the travel is named, and its chain is where one looks", () => {
  const asking = edited(demo, setTravel(neck.id, -88, 88));
  const [clue] = askedOf(asking, neck.id, "half").clues.filter(({ place }) => place === "chain");
  expect(clue).toMatchObject({ isSo: true, leadId: expect.any(String) });
  expect(clue?.says).toBe("Bench knob asks for no more than −70° to 70° of −88° to 88°.");
});

test("a smart servo of which all is known still has a place to look (found by the property below)", () => {
  const known = edited(demo, setEndStops("card-elbow", 0, 1), measured("card-elbow", -1, 1));
  expect(askedOf(known, "elbow", "half").clues.at(-1)).toMatchObject({ isSo: false, place: "angles" });
});

test("a window past the stop that was found is said with both numbers", () => {
  const past = edited(demo, setEndStops(neck.cardId, 700, 2600));
  expect(askedOf(past, neck.id, "grinds").known).toEqual([
    "stops: Its hard window goes to 500 µs; its lower stop is at 700 µs.",
  ]);
});

test("one that does not move: silent, simulated, limp, or sent frames that it does not take", () => {
  const places = (project: Project, now: Now) =>
    askedOf(project, neck.id, "still", now)
      .clues.filter(({ isSo }) => isSo)
      .map(({ place }) => place);
  expect(places(demo, atBench)).toEqual([]);
  expect(places(demo, { isReal: false, isAnswering: false, isHeld: false })).toEqual(["links", "links", "hold"]);
  expect(places(edited(demo, setFrameHz(neck.boardId, 0, 300)), atBench)).toEqual(["board"]);
});

test("a check that found something is told as the check tells it", () => {
  const shifted = [20, 60, 100, 140, 160].flatMap((deg) =>
    (["below", "above"] as const).map((cameFrom) => ({
      setPoint: 620 + (deg / 180) * 1770,
      cameFrom,
      seenDeg: deg + 14,
    })),
  );
  const checked = edited(
    demo,
    measured(neck.cardId, 620, 2390),
    addCheck(neck.cardId, {
      id: "seen",
      madeAt: "2026-03-02T10:00:00.000Z",
      calibrationId: "made-now",
      readings: shifted,
    }),
  );
  const { known } = askedOf(checked, neck.id, "off");
  expect(known).toHaveLength(1);
  expect(known[0]).toMatch(/^check: Its last check: .*14/);
});

test("what feeds another servo is not told of this one", () => {
  const said = askedOf(demo, "elbow", "late").known.join(" ");
  expect(said).not.toContain("Vent crank");
  expect(askedOf(demo, "vent-crank", "late").known.join(" ")).toContain("Vent crank gets only");
});

test("a limit that is slower than the servo is named with both speeds", () => {
  const slow = edited(demo, setSpeedLimit(neck.id, 30));
  expect(askedOf(slow, neck.id, "late").known[0]).toMatch(
    /^drive: Its speed limit is 30 °\/s; its card rates it at \d+ °\/s\.$/,
  );
});

test("whatever the window, the limits and the frame rate are: each symptom has a clue, and each clue is a sentence", () => {
  const anyJoint = fc.constantFrom(...demo.joints);
  const anyNumber = fc.double({ min: -12_000, max: 12_000, noNaN: true });
  const asFarAsTheyGo = (edits: readonly Edit[]) =>
    edits.reduce((project, edit) => {
      const after = edit.apply(project);
      return after.ok ? after.value : project;
    }, demo);
  fc.assert(
    fc.property(anyJoint, fc.array(anyNumber, { minLength: 8, maxLength: 8 }), fc.boolean(), (joint, n, isIt) => {
      const [a, b, c, d, e, f, g, h] = n as [number, number, number, number, number, number, number, number];
      const project = asFarAsTheyGo([
        setWindow(joint.cardId, Math.min(a, b), Math.max(a, b)),
        setEndStops(joint.cardId, isIt ? c : null, d),
        setTravel(joint.id, Math.min(e, f) / 60, Math.max(e, f) / 60),
        setFrameHz(joint.boardId, 0, Math.abs(g)),
        measured(joint.cardId, Math.min(c, h), Math.max(c, h) + 1),
      ]);
      const bench = jointBenchOf(project, byId(project.joints, joint.id));
      for (const id of symptomsOf(bench.card)) {
        const clues = cluesOf(id, { project, bench, now: { isReal: isIt, isAnswering: !isIt, isHeld: isIt } });
        expect([id, clues.length > 0]).toEqual([id, true]);
        for (const { says } of clues) {
          expect(says).toMatch(/^\S.*[.?]$/);
          expect(says).not.toMatch(/NaN|Infinity|undefined|null|\d-\d|\.\d{5}/);
        }
      }
    }),
    { numRuns: 300 },
  );
});

test("each symptom is said as a person says it, and is found by other words too", () => {
  for (const { says, alike } of Object.values(symptoms)) {
    expect(says).toMatch(/^[A-Z].*[^.]$/);
    expect(alike.split(" ").length).toBeGreaterThan(3);
  }
});

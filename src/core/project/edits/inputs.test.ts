import {
  addLeads,
  addSources,
  byId,
  editLead,
  editSource,
  type Lead,
  type Project,
  removeLead,
  removeSource,
  renameSource,
  type Source,
  setControl,
  setShaper,
  setSourceRange,
  usualControl,
} from "@core/project";
import { describe, expect, test } from "vitest";
import { demo, done, refusal } from "./onDemo";

const thousand = { low: 0, high: 1000 };
const lead = (change: Partial<Lead>): Lead => ({
  id: "new",
  sourceId: "bench-knob",
  target: { kind: "joint", jointId: "beak" },
  shapers: [],
  isMuted: false,
  ...change,
});
const map = (low: number, high: number) => ({ kind: "rangeMap", from: thousand, to: { low, high } }) as const;

describe("wiring a lead", () => {
  test("a knob onto the beak is taken, and can lie beside the others", () => {
    const after = done(addLeads([lead({ shapers: [map(0, 30)] })]));
    expect(after.leads).toHaveLength(demo.leads.length + 1);
    expect(addLeads([lead({})]).name).toBe("Add lead");
    expect(addLeads([lead({}), lead({ id: "other" })]).name).toBe("Add leads");
  });

  test("one that could never be seen is refused: all of it lies outside of the travel", () => {
    expect(
      refusal(addLeads([lead({ target: { kind: "joint", jointId: "neck-turn" }, shapers: [map(100, 160)] })])),
    ).toBe("Neck turn turns between −80° and 80°; this gives 100 to 160, all of it outside.");
  });

  test("the wrong kind out is refused in words: degrees for a spin, an amount for an action, more than 1 for a blend", () => {
    expect(
      refusal(addLeads([lead({ target: { kind: "joint", jointId: "vent-crank" }, shapers: [map(-90, 90)] })])),
    ).toBe("Vent crank spins and takes −1 to 1; this gives −90 to 90. End with a range map onto −1 to 1.");
    expect(refusal(addLeads([lead({ target: { kind: "action", action: { kind: "release" } } })]))).toBe(
      "An amount (0 to 1000) does not say when to act: put a threshold before it, or use a button.",
    );
    const blend = { kind: "blend", fromPoseId: "pose-watch", toPoseId: "pose-call" } as const;
    expect(refusal(addLeads([lead({ target: blend })]))).toBe(
      "A blend takes 0 to 1, and this gives 0 to 1000: end with a range map onto 0 to 1.",
    );
    expect(done(addLeads([lead({ target: blend, shapers: [map(0, 1)] })])).leads.at(-1)?.target).toEqual(blend);
  });

  test("what needs a switch and gets an amount says what is missing", () => {
    expect(refusal(setShaper("lead-knob-turn", 0, { kind: "toggle" }))).toMatch(
      /^Toggle needs something that switches off and on: put a threshold before it\.$/,
    );
    const select = { kind: "select", switchId: "lid-slider", sourceId: "stick-x", to: thousand } as const;
    expect(refusal(editLead("lead-knob-turn", "chain", (one) => ({ ...one, shapers: [select, ...one.shapers] })))).toBe(
      "What selects must be a switch, a button or a key.",
    );
  });

  test("a shaper takes the place of another; the rest of the chain stays, and one knob's edits undo together", () => {
    const edit = setShaper("lead-stick-nod", 1, { kind: "curve", range: thousand, shape: { kind: "s", amount: 0.5 } });
    const kinds = (project: Project) => byId(project.leads, "lead-stick-nod").shapers.map(({ kind }) => kind);
    expect(kinds(done(edit))).toEqual(kinds(demo));
    expect([edit.name, edit.mergeKey]).toEqual(["Change shaper 2", "lead:lead-stick-nod:shaper 2"]);
  });

  test("a number that no shaper can have is refused before it is in the project", () => {
    const lag = (lagMs: number) => setShaper("lead-stick-nod", 3, { kind: "smooth", lagMs, quickness: 8, span: 60 });
    expect(refusal(lag(-5))).toMatch(/^This must be (at least|more than) /);
    expect(refusal(lag(Number.NaN))).toBe("This must be a number.");
    expect(refusal(lag(80))).toBe("it was made");
  });

  test("a lead that was taken away leaves its source", () => {
    const after = done(removeLead("lead-knob-turn"));
    expect(after.leads.some(({ id }) => id === "lead-knob-turn")).toBe(false);
    expect(after.sources).toBe(demo.sources);
  });
});

describe("sources", () => {
  const button: Source = {
    id: "bell",
    label: "Bell",
    range: { low: 0, high: 1 },
    origin: { kind: "button" },
    isMuted: false,
    ifLost: { kind: "hold" },
  };

  test("a new one stands beside the others; an id that is taken is refused", () => {
    expect(done(addSources([button])).sources.at(-1)).toEqual(button);
    expect(refusal(addSources([{ ...button, id: "bench-knob" }]))).toContain("bench-knob");
  });

  test("another range, 8 bits for 10: the lead that maps the old one follows, and gives the same angles", () => {
    const after = done(setSourceRange("bench-knob", { low: 0, high: 255 }));
    expect(byId(after.leads, "lead-knob-turn").shapers[0]).toEqual({
      kind: "rangeMap",
      from: { low: 0, high: 255 },
      to: { low: -70, high: 70 },
    });
    expect(byId(after.leads, "lead-stick-nod")).toBe(byId(demo.leads, "lead-stick-nod"));
    expect(refusal(setSourceRange("bench-knob", { low: 9, high: 9 }))).toBe("The low end must be below the high end.");
  });

  test("a range that would send another lead beyond its target is refused", () => {
    const mixed = done(
      addLeads([
        lead({
          target: { kind: "joint", jointId: "vent-crank" },
          sourceId: "vent-way",
          shapers: [],
        }),
      ]),
    );
    expect(refusal(setSourceRange("vent-way", { low: 0, high: 20 }), mixed)).toMatch(/Vent crank spins|it was made/);
    const knob = done(
      addLeads([lead({ target: { kind: "joint", jointId: "vent-crank" }, shapers: [{ kind: "scale", by: 0.0005 }] })]),
    );
    expect(refusal(setSourceRange("bench-knob", { low: 0, high: 65_535 }), knob)).toMatch(/^Vent crank spins/);
  });

  test("one is renamed, changed and refused by its own rules", () => {
    expect(byId(done(renameSource("dusk", " Evening ")).sources, "dusk").label).toBe("Evening");
    expect(refusal(renameSource("dusk", "  "))).toContain("at least one character");
    const faster = editSource("breath", "rate", (one) =>
      one.origin.kind === "wave" ? { ...one, origin: { ...one.origin, rateHz: 2 } } : one,
    );
    expect(byId(done(faster).sources, "breath").origin).toMatchObject({ rateHz: 2 });
    const backwards = editSource("breath", "rate", (one) =>
      one.origin.kind === "wave" ? { ...one, origin: { ...one.origin, rateHz: -2 } } : one,
    );
    expect(refusal(backwards)).toMatch(/^This must be/);
  });

  test("one axis of a stick takes the other along, and every lead that listens to either", () => {
    const after = done(removeSource("stick-x"));
    expect(after.sources.some(({ origin }) => origin.kind === "stick")).toBe(false);
    expect(after.leads.some(({ id }) => id === "lead-stick-nod")).toBe(false);
    expect(after.leads.some(({ id }) => id === "lead-knob-turn")).toBe(true);
  });

  test("a source that a chain listens to on the side takes that lead along as well", () => {
    const mixed = done(
      editLead("lead-breath-tuft", "chain", (one) => ({
        ...one,
        shapers: [
          ...one.shapers,
          { kind: "combine", how: "sum", sourceId: "lid-slider", to: { low: -5, high: 5 }, share: 0.5 },
        ],
      })),
    );
    expect(done(removeSource("lid-slider"), mixed).leads.some(({ id }) => id === "lead-breath-tuft")).toBe(false);
    expect(done(removeSource("dusk"), mixed).leads.some(({ id }) => id === "lead-breath-tuft")).toBe(true);
  });
});

test("who may have a joint is set for it alone; times below zero are refused", () => {
  const after = done(setControl("beak", { ...usualControl, giveBackMs: 500 }));
  expect(byId(after.joints, "beak").control.giveBackMs).toBe(500);
  expect(byId(after.joints, "ear-tuft").control).toEqual(byId(demo.joints, "ear-tuft").control);
  expect(refusal(setControl("beak", { ...usualControl, blendMs: -1 }))).toBe("This must be at least 0.");
});

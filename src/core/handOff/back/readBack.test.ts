import { demoProject } from "@core/demo";
import {
  applyEdit,
  byId,
  type Project,
  setHandOffLanguage,
  setHandOffNumbers,
  setLeftOut,
  setPoseTarget,
} from "@core/project";
import { expect, test } from "vitest";
import { handOff, type ReadBack, readBack, takeOver } from "../index";

const none = new Map();
const inLanguage = (language: "c" | "python"): Project => {
  const done = setHandOffLanguage(language).apply(demoProject());
  if (!done.ok) throw new Error(done.problem);
  return done.value;
};
const textOf = (project: Project): string => {
  const made = handOff(project, none);
  if (!made.ok) throw new Error(made.problem);
  return made.value.files.at(-1)?.text ?? "";
};
const read = (project: Project, text: string): ReadBack => {
  const back = readBack(project, none, text);
  if (!back.ok) throw new Error(back.problem);
  return back.value;
};
/** Changes the one place that looks so. */
const changed = (text: string, from: string | RegExp, to: string) => {
  expect(typeof from === "string" ? text.includes(from) : from.test(text)).toBe(true);
  return text.replace(from, to);
};

test.each(["c", "python"] as const)("%s as it was written differs in nothing", (language) => {
  const project = inLanguage(language);
  expect(read(project, textOf(project))).toEqual({ differences: [], missing: 0 });
});

test.each(["c", "python"] as const)(
  "%s in whole numbers: as written it differs in nothing; what was changed is found",
  (language) => {
    const whole = setHandOffNumbers("whole").apply(inLanguage(language));
    if (!whole.ok) throw new Error(whole.problem);
    // A number that no whole one is exactly.
    const odd = setPoseTarget("pose-call", "neck-turn", 10.1234567).apply(whole.value);
    if (!odd.ok) throw new Error(odd.problem);
    const project = odd.value;
    const text = textOf(project);
    expect(read(project, text)).toEqual({ differences: [], missing: 0 });
    const narrower =
      language === "c"
        ? changed(text, ".high = DEG(80), .home = DEG(0),", ".high = DEG(62.5), .home = DEG(-5),")
        : changed(text, "high=deg(80), home=0,", "high=deg(625, 10), home=deg(-5),");
    const { differences } = read(project, changed(narrower, /(MOVE, +POSE_WATCH, +(?:MS|ms))\(900\)/, "$1(950)"));
    expect(differences.map(({ what, before, now }) => `${what}: ${before} → ${now}`)).toEqual([
      "Neck turn, upper limit: 80 → 62.5",
      "Neck turn, home: 0 → -5",
      "Owl wakes, step 1, move ms: 900 → 950",
    ]);
  },
);

test("what was changed in C is found, taken over as one edit, and written again as it stands in the changed file", () => {
  const project = inLanguage("c");
  let text = changed(textOf(project), ".low = -80, .high = 80, .home = 0,", ".low = -70, .high = 62.5, .home = -5,");
  text = changed(text, /(\[POSE_CALL\] = \{ +)10,( +)/, "$112,$2");
  text = changed(text, /(MOVE, +POSE_WATCH, +)900,( +)600,/, "$1950,$2640,");
  const { differences } = read(project, text);
  expect(differences.map(({ what, before, now }) => `${what}: ${before} → ${now}`)).toEqual([
    "Neck turn, lower limit: -80 → -70",
    "Neck turn, upper limit: 80 → 62.5",
    "Neck turn, home: 0 → -5",
    "Pose Call, Neck turn: 10 → 12",
    "Owl wakes, step 1, move ms: 900 → 950",
    "Owl wakes, step 1, hold ms: 600 → 640",
  ]);
  const after = takeOver(project, none, differences).apply(project);
  if (!after.ok) throw new Error(after.problem);
  expect(textOf(after.value)).toBe(text);
  const [first] = byId(after.value.routines, "routine-owl-wakes").steps;
  expect(first).toMatchObject({ pace: { kind: "time", moveMs: 950 }, holdMs: 640 });
});

test("the same in Python, and only what was chosen", () => {
  const project = inLanguage("python");
  let text = changed(textOf(project), "low=-80, high=80, home=0, per_s=240", "low=-80, high=80, home=3, per_s=0");
  text = changed(text, "window=(500, 2500)", "window=(600, 2400)");
  const { differences } = read(project, text);
  expect(differences.map(({ key }) => key)).toEqual([
    "joint/neck_turn/home",
    "joint/neck_turn/per_s",
    "joint/neck_turn/window_low",
    "joint/neck_turn/window_high",
  ]);
  const after = takeOver(project, none, differences.slice(0, 1)).apply(project);
  expect(after.ok && byId(after.value.joints, "neck-turn").axis).toMatchObject({ homeDeg: 3, speedLimitDegPerS: 240 });
  const all = takeOver(project, none, differences).apply(project);
  expect(all.ok && textOf(all.value)).toBe(text);
});

test.each(["c", "python"] as const)("%s with the line ends of another system reads the same", (language) => {
  const project = inLanguage(language);
  const text = textOf(project)
    .replace(/home(\s*)=(\s*)0,/, "home$1=$25,")
    .replaceAll("\n", "\r\n");
  expect(read(project, text)).toMatchObject({ differences: [{ what: "Neck turn, home", now: "5" }], missing: 0 });
});

test.each(["c", "python"] as const)(
  "%s of another choice of joints: each number is of the joint that it was written for (poses had slipped to the next)",
  (language) => {
    const project = inLanguage(language);
    const left = setLeftOut(["neck-turn", "routine-owl-wakes", "routine-carry-tray"], true).apply(project);
    expect(left.ok && read(left.value, textOf(project)).differences).toEqual([]);
  },
);

test("poses without the joints that they are of are not read: nobody knows whose cells they are", () => {
  const project = inLanguage("c");
  const text = textOf(project);
  const back = readBack(project, none, text.slice(text.indexOf("static const Target poses")));
  expect(back.ok && back.value.differences).toEqual([]);
});

test.each(["1e999", "-1e999"])("%s is a number that no limit may be: nothing is taken over", (huge) => {
  const project = inLanguage("c");
  const { differences } = read(project, changed(textOf(project), ".low = -80,", `.low = ${huge},`));
  expect(applyEdit(takeOver(project, none, differences), project).ok).toBe(false);
});

test("a routine with a step more on the bench than in the text: its steps are shown, and none is taken over", () => {
  const project = inLanguage("c");
  const text = textOf(project).replace(/ +\{ MOVE, +POSE_WATCH,[^\n]*\n/, "");
  const { differences } = read(project, text);
  expect(differences.length).toBeGreaterThan(3);
  expect(differences.every(({ why }) => why?.includes("another number of steps"))).toBe(true);
});

/** The owl with a lane over its beak. */
const withLane = (language: "c" | "python", numbers: "real" | "whole"): Project => {
  const project = inLanguage(language);
  const keys = [400, 900, 2000.5].map((atMs, at) => ({ atMs, target: 5 * at, shape: "line" as const }));
  const lanes = [{ jointId: "beak", mode: "add" as const, keys }];
  const routines = project.routines.map((one) => (one.id === "routine-owl-wakes" ? { ...one, lanes } : one));
  return { ...project, routines, handOff: { ...project.handOff, numbers } };
};

test.each([
  ["c", "real", "{ 900, 5, ", "{ 950, 7.5, "],
  ["c", "whole", "{ MS(900), DEG(5), ", "{ MS(950), DEG(7.5), "],
  ["python", "real", "(900, 5, ", "(950, 7.5, "],
  ["python", "whole", "(ms(900), deg(5), ", "(ms(950), deg(75, 10), "],
] as const)(
  "keys of a lane, easings, rounds and the end come back as well: %s, %s numbers",
  (language, numbers, from, to) => {
    const project = withLane(language, numbers);
    const written = textOf(project);
    expect(read(project, written).differences).toEqual([]);
    let text = changed(written, from, to);
    text = changed(text, /rounds = 1|rounds=1/, language === "c" ? "rounds = 3" : "rounds=3");
    text = changed(text, /releases ?= ?(?:false|False)/, language === "c" ? "releases = true" : "releases=True");
    const { differences } = read(project, text);
    expect(differences.map(({ what, before, now }) => `${what}: ${before} → ${now}`)).toEqual([
      "Owl wakes, rounds (0 is without end): 1 → 3",
      "Owl wakes, releases its joints at the end: false → true",
      "Owl wakes, Beak, key 2, ms: 900 → 950",
      "Owl wakes, Beak, key 2, target: 5 → 7.5",
    ]);
    const after = takeOver(project, none, differences).apply(project);
    if (!after.ok) throw new Error(after.problem);
    expect(read(after.value, text).differences).toEqual([]);
    const owl = byId(after.value.routines, "routine-owl-wakes");
    expect(owl).toMatchObject({ repeat: { kind: "times", times: 3 }, atEnd: "release" });
    expect(owl.lanes[0]?.keys[1]).toMatchObject({ atMs: 950, target: 7.5 });
  },
);

test("an easing that is used elsewhere can be taken; one that is none of the file's is shown, and why not", () => {
  const bare = inLanguage("c");
  const routines = bare.routines.map((one) => ({
    ...one,
    steps: one.steps.map((step, at) =>
      step.kind === "move" && at === 1 ? { ...step, easing: { kind: "out" as const } } : step,
    ),
  }));
  const project = { ...bare, routines };
  const known = changed(textOf(project), /(POSE_WATCH, +MOVE|MOVE, +POSE_WATCH,[^}]*)LEAST_JERK/, "$1SOFT_END");
  const { differences } = read(project, known);
  expect(differences.map(({ what, now, why }) => [what, now, why])).toEqual([
    ["Owl wakes, step 1, easing", "soft_end", null],
  ]);
  const after = takeOver(project, none, differences).apply(project);
  expect(after.ok && byId(after.value.routines, "routine-owl-wakes").steps[0]).toMatchObject({
    easing: { kind: "out" },
  });
  const foreign = read(project, known.replace(/(MOVE, +POSE_WATCH,[^}]*)SOFT_END/, "$1WOBBLY"));
  expect(foreign.differences[0]?.why).toBe("the bench has nothing of that name here");
});

test("a slope is shown and not taken over: it follows from a measurement", () => {
  const project = inLanguage("c");
  const { differences } = read(project, changed(textOf(project), ".slope = 5.555555555555555,", ".slope = 6,"));
  expect(differences).toMatchObject([{ what: "Neck turn, slope", why: expect.stringContaining("Calibrate") }]);
  const after = takeOver(project, none, differences).apply(project);
  expect(after.ok && after.value).toEqual(project);
});

test("a limit that makes no sense refuses all of it, in words", () => {
  const project = inLanguage("c");
  const { differences } = read(project, changed(textOf(project), ".low = -80,", ".low = 90,"));
  const after = takeOver(project, none, differences).apply(project);
  expect(after.ok ? "" : after.problem).toContain("must be below");
});

test.each([
  ["", "No joints, poses or steps"],
  ["int main(void) { return 0; }", "No joints, poses or steps"],
  ["\0\0[JOINT_NECK_TURN] = {", "No joints, poses or steps"],
])("foreign text changes nothing: %j", (text, words) => {
  const back = readBack(inLanguage("c"), none, text);
  expect(back.ok ? "" : back.problem).toContain(words);
});

test("a damaged number is named, and what was cut off is counted", () => {
  const project = inLanguage("c");
  const back = readBack(project, none, changed(textOf(project), ".home = 0,", ".home = 0x1G,"));
  expect(back.ok ? "" : back.problem).toBe("Neck turn, home: “0x1G” is no number.");
  const text = textOf(project);
  expect(read(project, text.slice(0, text.indexOf("[POSE_WATCH]"))).missing).toBeGreaterThan(50);
});

import { demoProject } from "@core/demo";
import { addCalibration, flipDirection, type Project, setTravel } from "@core/project";
import { describe, expect, test } from "vitest";
import { benchOf } from "../../tests/benchInHand";

const demo = demoProject();

describe("a changed document", () => {
  const edited = (...edits: { apply: (project: Project) => unknown }[]) =>
    edits.reduce<Project>((project, edit) => (edit.apply(project) as { value: Project }).value, demo);

  test("a new calibration keeps the pulse, so nothing jumps", () => {
    const { run, command, configure, read } = benchOf();
    command({ kind: "holdAll" });
    command({ kind: "target", jointId: "neck-turn", target: 40 });
    run(1000);
    const before = read("neck-turn", "setPoint");
    configure(
      edited(
        addCalibration("card-neck-turn", {
          kind: "line",
          id: "made",
          madeAt: "2026-11-20T10:00:00.000Z",
          note: "",
          points: [
            { angleDeg: 45, setPoint: 1000 },
            { angleDeg: 135, setPoint: 2000 },
          ],
        }),
      ),
    );
    run(100);
    expect(read("neck-turn", "setPoint")).toBe(before);
    // 1722.2 µs is 130° by the sheet and 110° by the new line.
    expect(read("neck-turn", "target")).toBeCloseTo(20, 6);
  });

  test("a reversed direction keeps the pulse too", () => {
    const { run, command, configure, read } = benchOf();
    command({ kind: "holdAll" });
    command({ kind: "target", jointId: "neck-turn", target: 40 });
    run(1000);
    const before = read("neck-turn", "setPoint");
    configure(edited(flipDirection("neck-turn")));
    run(100);
    expect(read("neck-turn", "setPoint")).toBe(before);
    expect(read("neck-turn", "target")).toBeCloseTo(-40, 6);
  });

  test("reversed near a limit that is not as far as the other one, it stays where it stands, and can go no further than before", () => {
    const { run, command, configure, read } = benchOf();
    const limits = setTravel("neck-turn", -80, 20);
    configure(edited(limits));
    command({ kind: "holdAll" });
    command({ kind: "target", jointId: "neck-turn", target: -75 });
    run(2000);
    const before = read("neck-turn", "setPoint");
    configure(edited(limits, flipDirection("neck-turn")));
    run(1000);
    expect(read("neck-turn", "setPoint")).toBe(before);
    expect(read("neck-turn", "target")).toBeCloseTo(75, 6);
    // Where it was at 20° before.
    command({ kind: "target", jointId: "neck-turn", target: -80 });
    run(2000);
    expect(read("neck-turn", "target")).toBeCloseTo(-20, 6);
  });

  test("limits drawn in bring the joint in at its speed limit", () => {
    const { run, command, configure, read } = benchOf();
    command({ kind: "holdAll" });
    command({ kind: "target", jointId: "neck-turn", target: 60 });
    run(1000);
    configure(edited(setTravel("neck-turn", -10, 10)));
    run(20);
    expect(read("neck-turn", "target")).toBeCloseTo(60 - 4.8, 6);
    run(1000);
    expect(read("neck-turn", "target")).toBe(10);
  });

  test("a joint that moved to another channel is released", () => {
    const { run, command, configure, read } = benchOf();
    command({ kind: "holdAll" });
    run(100);
    configure({
      ...demo,
      joints: demo.joints.map((joint) => (joint.id === "beak" ? { ...joint, channel: 12 } : joint)),
    });
    run(100);
    expect(read("beak", "isHeld")).toBe(0);
    expect(read("neck-nod", "isHeld")).toBe(1);
  });
});

import { execFileSync } from "node:child_process";
import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { demoProject } from "../src/core/demo";
import { cFiles, handOff, machineOf, pythonFile } from "../src/core/handOff";
import { type HandOff, usualHandOff } from "../src/core/project";
import { crowdScore } from "./performance";

const ticks = 20_000;

/** The exported player with 32 joints in C and in Python, in floating point and in whole numbers: how long a tick takes, and how large it is. */
export async function handOffSpeed(): Promise<string[]> {
  return [...speedWith("real"), ...speedWith("whole"), ...demoSizes()];
}

/** How large the demo is in each form: the text, and in C what a compiler makes of it. */
function demoSizes(): string[] {
  const demo = demoProject();
  return (["c", "python"] as const).flatMap((language) =>
    (["real", "whole"] as const).map((numbers) => {
      const made = handOff({ ...demo, handOff: { ...demo.handOff, language, numbers } }, new Map());
      if (!made.ok) return made.problem;
      const { files, sums } = made.value;
      const text = `the demo in ${language === "c" ? "C" : "Python"}, ${numbers} numbers: ${sums.textBytes} bytes of text`;
      if (language === "python") return text;
      const folder = mkdtempSync(join(tmpdir(), "vantel-demo-"));
      for (const file of files) writeFileSync(join(folder, file.name), file.text);
      const object = join(folder, "demo.o");
      const source = files.find(({ name }) => name.endsWith(".c"))?.name ?? "";
      execFileSync("gcc", ["-std=c99", "-Os", "-c", join(folder, source), "-o", object]);
      const [code, data, memory] = sizesOf(object);
      return `${text}; ${code} of code and tables, ${Number(data) + Number(memory)} of memory`;
    }),
  );
}

/** Code, data and memory of what was compiled, in bytes. */
const sizesOf = (file: string): readonly (string | undefined)[] =>
  execFileSync("size", [file]).toString().trim().split("\n").at(-1)?.trim().split(/\s+/) ?? [];

function speedWith(numbers: HandOff["numbers"]): string[] {
  const { project, score } = crowdScore(60_000);
  const made = machineOf(
    { ...project, routines: [score.routine] },
    { jointIds: [], poseIds: [], routineIds: ["crowd"] },
    new Map(),
  );
  if (!made.ok) return [made.problem];
  const machine = made.value;
  const folder = mkdtempSync(join(tmpdir(), "vantel-code-"));
  const own = {
    top: "#include <stdint.h>\nvolatile int32_t last;",
    start: "",
    set: "last = {count} + {board} + {channel};",
    off: "last = {channel};",
    send: "",
  };
  for (const { name, text } of cFiles(machine, own, numbers)) writeFileSync(join(folder, name), text);
  const { name } = machine;
  writeFileSync(
    join(folder, "main.c"),
    `#include "${name}.h"
#include <stdio.h>
#include <time.h>
int main(void)
{
  ${name}_begin(); ${name}_hold(); ${name}_play(0);
  const clock_t begin = clock();
  for (uint32_t tick = 0; tick < ${ticks}; tick++) ${name}_tick(tick * FRAME_MS);
  printf("%f", (double)(clock() - begin) / CLOCKS_PER_SEC);
  return 0;
}
`,
  );
  const program = join(folder, "program");
  execFileSync("gcc", ["-std=c99", "-O2", join(folder, `${name}.c`), join(folder, "main.c"), "-o", program]);
  const inC = Number(execFileSync(program).toString());
  const python = pythonFile(machine, usualHandOff.lines.python, numbers);
  writeFileSync(join(folder, python.name), python.text);
  const script = `import time, ${name} as made
rig = made.Rig(); rig.hold(); rig.play(0)
begin = time.perf_counter()
for tick in range(${ticks / 20}): rig.tick(tick * made.FRAME_MS)
print(time.perf_counter() - begin)`;
  const inPython = Number(execFileSync("python3", ["-c", script], { cwd: folder }).toString());
  const sizes = sizesOf(program);
  const perS = (seconds: number, count: number) =>
    Math.round(count / seconds)
      .toLocaleString("en")
      .replaceAll(",", " ");
  return [
    `32 joints in C, ${numbers} numbers: ${perS(inC, ticks)} ticks a second; the whole program has ${sizes[0]} bytes of code and tables, ${Number(sizes[1]) + Number(sizes[2])} of memory`,
    `the same in Python: ${perS(inPython, ticks / 20)} ticks a second`,
  ];
}

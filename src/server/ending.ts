import type { EventEmitter } from "node:events";

/** Ctrl C, a wish of the system, and a terminal or a distant shell that is closed. */
const signals = ["SIGINT", "SIGTERM", "SIGHUP"] as const;

/** As much of the process as is needed to end it. */
export interface Program {
  readonly on: (event: string, act: (error: unknown) => void) => unknown;
  readonly exit: (code: number) => void;
  readonly stdout: Pick<EventEmitter, "on">;
  readonly stderr: Pick<EventEmitter, "on">;
}

/** For a fault of its own, as other programs have it. */
const faultCode = 70;
/** Whoever does not get done is not waited for: a person who pressed Ctrl C wants it to end. */
const withinMs = 3000;

/**
 * Has a program let go of what it holds before it ends, whatever ends it: a signal (it exits with `signalCode`), or a fault that nobody caught (with
 * 70). Servos hang on its wires, and a board may be set to hold on when it hears nothing more.
 */
export function letGoAtTheEnd(letGo: () => Promise<unknown>, signalCode: number, program: Program = process): void {
  let isEnding = false;
  const end = async (code: number) => {
    if (isEnding) return;
    isEnding = true;
    setTimeout(() => program.exit(code), withinMs);
    await letGo().catch(() => {});
    program.exit(code);
  };
  for (const signal of signals) program.on(signal, () => void end(signalCode));
  program.on("uncaughtException", (error) => {
    console.error(error);
    void end(faultCode);
  });
  outliveTerminal(program);
}

/** A terminal that was closed takes no words any more; that must not end what still has to let go. */
export function outliveTerminal({ stdout, stderr }: Pick<Program, "stdout" | "stderr"> = process): void {
  for (const out of [stdout, stderr]) out.on("error", () => {});
}

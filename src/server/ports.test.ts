import { expect, test } from "vitest";
import { Outbox } from "./outbox";
import { writeDirected } from "./ports";

/** A port that writes down what is done to it, each step a moment later. */
function port() {
  const done: string[] = [];
  const later = (then: () => void) => setTimeout(then, 1);
  return {
    done,
    write: (bytes: Buffer) => void done.push(`send ${bytes.toString("hex")}`),
    drain: (then: () => void) =>
      later(() => {
        done.push("sent");
        then();
      }),
    set: (lines: object, then: (error: null) => void) =>
      later(() => {
        done.push(JSON.stringify(lines));
        then(null);
      }),
  };
}

test.each([
  ["rts high", '{"rts":true}', '{"rts":false}'],
  ["rts low", '{"rts":false}', '{"rts":true}'],
  ["dtr high", '{"dtr":true}', '{"dtr":false}'],
  ["dtr low", '{"dtr":false}', '{"dtr":true}'],
] as const)(
  "with %s, two packets at once leave one after the other, each between turning to sending and back",
  async (direction, sends, listens) => {
    const one = port();
    const outbox = new Outbox(writeDirected(one, direction));
    outbox.send(Buffer.of(1));
    outbox.send(Buffer.of(2));
    await new Promise((done) => setTimeout(done, 60));
    // It listens from the start.
    expect(one.done.join(" ")).toBe(`${listens} ${sends} send 01 sent ${listens} ${sends} send 02 sent ${listens}`);
    // What lets the servos go is sent the same way, and is said once the adapter listens again.
    await outbox.sendLast(Buffer.of(3));
    expect(one.done.slice(-4)).toEqual([sends, "send 03", "sent", listens]);
  },
);

import { expect, test } from "vitest";
import { Outbox } from "./outbox";

/** A wire that takes one piece at a time, when it is let. */
function slowWire() {
  const sent: string[] = [];
  let done = () => {};
  const outbox = new Outbox((bytes, whenDone) => {
    sent.push(bytes.toString());
    done = whenDone;
  });
  return { outbox, sent, take: () => done() };
}

test("the last words wait only for the piece that is on its way, and nothing comes behind them", async () => {
  const { outbox, sent, take } = slowWire();
  for (const line of ["one\n", "two\n", "three\n"]) outbox.send(Buffer.from(line));
  expect([sent, outbox.waitingBytes]).toEqual([["one\n"], 10]);
  let isSaid = false;
  const said = outbox.sendLast(Buffer.from("let go\n")).then(() => {
    isSaid = true;
  });
  outbox.send(Buffer.from("four\n"));
  take();
  expect(sent).toEqual(["one\n", "let go\n"]);
  await Promise.resolve();
  expect(isSaid).toBe(false);
  take();
  await said;
  expect([sent, outbox.waitingBytes]).toEqual([["one\n", "let go\n"], 0]);
});

test("a flood goes out in pieces of whole lines; what has no lines in pieces of a kilobyte", () => {
  const { outbox, sent, take } = slowWire();
  outbox.send(Buffer.from("V 2#3005\n".repeat(300)));
  outbox.send(Buffer.alloc(1500, "x"));
  for (let piece = 0; piece < 6; piece += 1) take();
  expect(sent.map((text) => text.length)).toEqual([1017, 1017, 666, 1024, 476]);
  expect(sent.slice(0, 3).every((text) => text.endsWith("\n"))).toBe(true);
});

test("it is empty when the last piece is on its way, and at once where nothing was sent", async () => {
  const { outbox, take } = slowWire();
  await outbox.emptied();
  outbox.send(Buffer.from("one\n"));
  outbox.send(Buffer.from("two\n"));
  let isEmpty = false;
  const empty = outbox.emptied().then(() => {
    isEmpty = true;
  });
  take();
  await Promise.resolve();
  expect(isEmpty).toBe(false);
  take();
  await empty;
});

test("last words are said once", async () => {
  const { outbox, sent, take } = slowWire();
  const first = outbox.sendLast(Buffer.from("let go\n"));
  await outbox.sendLast(Buffer.from("again\n"));
  take();
  await first;
  expect(sent).toEqual(["let go\n"]);
});

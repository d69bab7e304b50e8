import { demoProject } from "@core/demo";
import { LinkSession } from "@core/link";
import { byId } from "@core/project";
import { channelGroupsOf, channelMakersOf } from "@core/signal";
import fc from "fast-check";
import { expect, test } from "vitest";
import { SimBoard } from ".";

const fern = byId(demoProject().boards, "fern");
const [maker] = channelMakersOf(fern);

/** A session and a board on a wire on which `spoil` may change, drop or add bytes, in both directions. */
function wire(spoil: (bytes: Uint8Array) => Uint8Array) {
  let nowMs = 0;
  const board = new SimBoard(fern, new Map(), (bytes) => session.receive(spoil(bytes), nowMs));
  const session: LinkSession = new LinkSession(
    {
      label: fern.label,
      countName: "count",
      channels: fern.channels,
      groups: channelGroupsOf(fern),
      silence: { afterMs: 500, action: "release" },
    },
    (bytes) => board.receive(spoil(bytes), nowMs),
  );
  session.setLimits(
    [0, 1, 2].map((channel) => ({ channel, lowest: 204, highest: 1024, step: 8191 })),
    0,
  );
  return {
    board,
    session,
    frame(registers: readonly number[]) {
      nowMs += 20;
      session.tick(nowMs);
      session.sendFrame([0, 1, 2], registers, nowMs);
      board.advance(nowMs, 20);
    },
    release: () => session.releaseAll(nowMs),
  };
}

test("whatever noise does to the bytes, a board never puts out a signal that was not sent", () => {
  // A check value of 16 bits lets one spoiled line in 65 536 pass; one flipped bit it always finds.
  const flips = fc.array(fc.record({ at: fc.nat(40), bit: fc.nat(7), isHit: fc.boolean() }), { maxLength: 60 });
  fc.assert(
    fc.property(
      flips,
      fc.array(fc.integer({ min: 204, max: 1024 }), { minLength: 3, maxLength: 30 }),
      (script, values) => {
        let line = 0;
        const { board, frame } = wire((bytes) => {
          const flip = script[line % (script.length || 1)];
          line += 1;
          if (!flip?.isHit) return bytes;
          const spoilt = bytes.slice();
          const at = flip.at % spoilt.length;
          spoilt[at] = (spoilt[at] as number) ^ (1 << flip.bit);
          return spoilt;
        });
        const sent = new Set<string>();
        for (const value of values) {
          frame([value, Number.NaN, value]);
          sent.add((maker?.toSetPoint(value) ?? 0).toFixed(6));
          const out = board.setPointOf(0);
          if (!Number.isNaN(out)) expect(sent).toContain(out.toFixed(6));
          expect(board.setPointOf(1)).toBeNaN();
        }
      },
    ),
    { numRuns: 300 },
  );
});

test("lost lines heal with the next frame", () => {
  let isDropping = false;
  const { board, frame } = wire((bytes) => (isDropping ? new Uint8Array(0) : bytes));
  frame([300, 300, 300]);
  frame([300, 300, 300]);
  isDropping = true;
  frame([400, 400, 400]);
  expect(board.setPointOf(0)).toBe(maker?.toSetPoint(300));
  isDropping = false;
  frame([410, 410, 410]);
  expect(board.setPointOf(0)).toBe(maker?.toSetPoint(410));
});

test("a board that hears nothing for its watchdog's time releases, and is greeted back without its old pulses", () => {
  let isCut = false;
  const { board, session, frame } = wire((bytes) => (isCut ? new Uint8Array(0) : bytes));
  for (let at = 0; at < 5; at += 1) frame([300, 300, 300]);
  isCut = true;
  for (let at = 0; at < 40; at += 1) frame([300, 300, 300]);
  expect(session.state.kind).toBe("lost");
  expect(board.setPointOf(0)).toBeNaN();
  isCut = false;
  for (let at = 0; at < 40 && session.state.kind !== "live"; at += 1) frame([Number.NaN, Number.NaN, Number.NaN]);
  expect(session.state.kind).toBe("live");
  expect(session.wasLimp).toBe(true);
  expect(board.setPointOf(0)).toBeNaN();
});

test("a release gets through on a wire that spoils every other line, at the next frame at the latest", () => {
  let line = 0;
  const { board, frame, release } = wire((bytes) => {
    line += 1;
    return line % 2 === 0 ? bytes.slice(1) : bytes;
  });
  for (let at = 0; at < 30; at += 1) frame([300, 300, 300]);
  release();
  for (let at = 0; at < 4; at += 1) frame([Number.NaN, Number.NaN, Number.NaN]);
  expect(board.setPointOf(0)).toBeNaN();
});

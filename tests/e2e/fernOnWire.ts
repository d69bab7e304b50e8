import { toSetPoint } from "@core/calibrate";
import { demoProject } from "@core/demo";
import { byId, type Joint } from "@core/project";
import { curveOf, ratedSpeedDegPerS } from "@core/servo";
import { channelGroupsOf } from "@core/signal";
import type { Page } from "puppeteer-core";
import { expect } from "vitest";
import { handsOn } from "./hands";
import type { RealBoard } from "./realBoard";
import { insist } from "./waiting";

/** The demo's owl as it hangs on a real board: its hands, and what may never happen to it. */
const project = demoProject();
export const fern = byId(project.boards, "fern");
const joints = project.joints.filter(({ boardId }) => boardId === "fern");

/** Waits until the top line says something. */
export const headerOf = (page: Page, words: string) =>
  page.waitForFunction((wanted) => document.querySelector("header")?.textContent?.includes(wanted), {}, words);

/** Chooses a port of the server for Fern, in the links' sheet. */
export async function openItsWire(page: Page, port: string): Promise<void> {
  const hands = handsOn(page);
  await hands.press("3 simulated boards, live");
  await hands.press("Choose its wire");
  await hands.choose("The wire to Fern", "A serial port of the computer that serves Vantel");
  await hands.type("Path of the port", port);
  await hands.press(`Open the port ${port}`);
}

/** Holds every joint, as a person who stands clear of them does. */
export async function holdAll(page: Page): Promise<void> {
  // A board that did not answer for a moment lets nobody hold it just then: a person tries again.
  await insist(
    async () => {
      await headerOf(page, "1 board and 2 simulated, live");
      const button = await page.$("header ::-p-text(Hold all)");
      await button?.click().catch(() => {});
    },
    async () => (await handsOn(page).rackText("neck-turn")).includes("held"),
    400,
  );
}

/** Holds all and plays until it is well under way: again if a machine that stood still has let the board go meanwhile, as it should. */
export const playOn = (page: Page, isUnderWay: () => boolean | Promise<boolean>) =>
  insist(
    async () => {
      await holdAll(page);
      // What it says depends on who is limp just then; and while it plays it is not there.
      const button = (await page.$("main button ::-p-text(Play)")) ?? (await page.$("main button ::-p-text(and play)"));
      await button?.click().catch(() => {});
    },
    isUnderWay,
    12_000,
  );

const windowUs = ({ cardId }: Joint) => byId(project.cards, cardId).window;

/**
 * By how much a pulse may change from one frame of the pins to the next: by what the joint may turn in the time, as its card has it. The host's frames and those of
 * the pins drift past one another, so that two of the host's may fall between two pulses; besides, there are the counts of room that the protocol gives.
 */
function stepNs(channel: number): number {
  const joint = joints.find((one) => one.channel === channel) as Joint;
  const [group] = channelGroupsOf(fern);
  const card = byId(project.cards, joint.cardId);
  if (joint.axis.kind !== "angle" || card.kind === "continuous" || !group) return 0;
  const curve = curveOf(card);
  const usPerDeg = Math.max(
    ...Array.from({ length: card.travelDeg }, (_, deg) =>
      Math.abs(toSetPoint(curve, deg + 1) - toSetPoint(curve, deg)),
    ),
  );
  const countNs = (group.atHighest - group.atLowest) / (group.highestCount - group.lowestCount);
  const degPerS = joint.axis.speedLimitDegPerS ?? ratedSpeedDegPerS(card);
  return 2 * ((degPerS * usPerDeg * group.periodNs) / 1e6 + 3 * countNs);
}

/** What no pulse may do, whatever happened: leave its hard window, or jump further than its joint may turn in the time between two. */
export function expectNoJump(board: RealBoard): void {
  const before = new Map<number, { atNs: number; lengthNs: number }>();
  const { periodNs } = channelGroupsOf(fern)[0] ?? { periodNs: 0 };
  for (const { channel, atNs, lengthNs } of board.pulses) {
    const joint = joints.find((one) => one.channel === channel);
    if (!joint) throw new Error(`A pulse on channel ${channel}, where no joint is.`);
    const { low, high } = windowUs(joint);
    expect([joint.label, lengthNs >= low * 1000 - 1 && lengthNs <= high * 1000 + 1]).toEqual([joint.label, true]);
    const last = before.get(channel);
    if (last && atNs - last.atNs < 1.5 * periodNs)
      expect([joint.label, atNs, Math.max(0, Math.abs(lengthNs - last.lengthNs) - stepNs(channel))]).toEqual([
        joint.label,
        atNs,
        0,
      ]);
    before.set(channel, { atNs, lengthNs });
  }
}

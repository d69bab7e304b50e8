import { demoProject } from "@core/demo";
import { deflateSync, strToU8 } from "fflate";
import { afterEach, expect, test, vi } from "vitest";
import { layOut, projectNow } from "./document";
import { giftIn, linkOf, longestLink } from "./gifts";

vi.stubGlobal("location", { origin: "http://127.0.0.1:4390", hash: "" });
layOut(demoProject());
afterEach(() => expect(projectNow()).toEqual(demoProject()));

const base64url = (bytes: Uint8Array) => Buffer.from(bytes).toString("base64url");
const linkWith = (text: string) => `http://127.0.0.1:4390/#gift=${base64url(deflateSync(strToU8(text)))}`;
const linkTo = (kind: "card" | "pose" | "routine", id: string) => {
  const link = linkOf({ kind, id });
  if (!link.ok) throw new Error(link.problem);
  return link.value;
};

test.each([
  ["card", "card-neck-nod"],
  ["pose", "pose-call"],
  ["routine", "routine-owl-wakes"],
] as const)("a %s goes into an address and comes out of it whole, at whatever address it is opened", (kind, id) => {
  const link = linkTo(kind, id);
  expect(link.length).toBeLessThan(longestLink);
  expect(giftIn(link)).toMatchObject({ ok: true, value: { kind } });
  expect(giftIn(link.replace("127.0.0.1:4390", "[::1]:8080"))).toEqual(giftIn(link));
});

test("10 000 links that were cut, changed and made up: each is a gift or refused, and none changes anything", () => {
  const links = [linkTo("card", "card-grip"), linkTo("routine", "routine-owl-wakes")];
  let seed = 7;
  const random = (below: number) => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((seed / 2_147_483_648) * below);
  };
  const letters = "ABCabc019-_=%#/\\ \u0000é<";
  for (let run = 0; run < 10_000; run += 1) {
    const link = links[run % 2] as string;
    const at = random(link.length);
    const odd =
      run % 3 === 0 ? link.slice(0, at) : link.slice(0, at) + letters[random(letters.length)] + link.slice(at + 1);
    expect(typeof giftIn(odd).ok).toBe("boolean");
  }
});

test.each([
  ["nothing", "http://127.0.0.1:4390/"],
  ["no text at all", "http://127.0.0.1:4390/#gift="],
  ["no packed bytes", "http://127.0.0.1:4390/#gift=AAAA"],
  ["no JSON", linkWith("hello")],
  ["a foreign object", linkWith('{"__proto__":{"isAdmin":true},"constructor":{}}')],
  ["a megabyte in a few bytes", linkWith(" ".repeat(1_000_000))],
  ["a link without end", `http://127.0.0.1:4390/#gift=${"A".repeat(1_000_000)}`],
])("%s is refused in words", (_, link) => {
  expect(giftIn(link)).toMatchObject({ ok: false, problem: expect.stringContaining("Nothing was changed.") });
});

test("what is too long for an address is refused with another way", () => {
  const project = demoProject();
  const notes = Array.from({ length: 4000 }, (_, at) =>
    String.fromCharCode(0x4e00 + ((at * 7919 + at * at * 31) % 20_000)),
  ).join("");
  layOut({ ...project, cards: project.cards.map((card) => ({ ...card, notes })) });
  const link = linkOf({ kind: "card", id: "card-grip" });
  layOut(project);
  expect(link.ok ? "" : link.problem).toContain("Share the project file instead.");
});

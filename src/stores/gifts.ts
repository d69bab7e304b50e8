import { type Gift, type GiftOf, giftOf, readGift, takeIn } from "@core/handOff";
import { ok, problem, type Result } from "@core/result";
import { deflateSync, Inflate, strFromU8, strToU8 } from "fflate";
import { useEffect } from "react";
import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { editForField, newId, projectNow } from "./document";

/** A gift stands behind this in an address: the part that no browser sends to any server. */
const mark = "#gift=";
/** A longer address is cut by some programs that pass it on. */
export const longestLink = 6000;
/** What a link may become at most when it is unpacked. */
const mostBytes = 300_000;

/** The gift that came with the address of this page, as long as nobody has taken it in or left it. */
const giftStore = createStore<{ readonly gift: Result<Gift> | null }>()(() => ({ gift: null }));

export const useGift = () => useStore(giftStore, ({ gift }) => gift);

/** The link for one card, pose or routine. Fails in words where it does not stand by itself, or is too long for an address. */
export function linkOf(of: GiftOf): Result<string> {
  const gift = giftOf(projectNow(), of);
  if (!gift.ok) return gift;
  const link = `${location.origin}/${mark}${base64url(deflateSync(strToU8(JSON.stringify(gift.value)), { level: 9 }))}`;
  return link.length <= longestLink
    ? ok(link)
    : problem(
        `That would be an address of ${link.length} letters, and many programs cut one of more than ${longestLink}. Share the project file instead.`,
      );
}

/** What a link holds. Whatever is not a whole gift is refused in words. */
export function giftIn(link: string): Result<Gift> {
  const at = link.indexOf(mark);
  const text = at < 0 ? "" : link.slice(at + mark.length).trim();
  const damaged = problem("This link is damaged, or not one of Vantel. Nothing was changed.");
  if (text === "" || text.length > longestLink || !/^[\w-]+$/.test(text)) return damaged;
  const unpacked = inflated(bytesIn(text));
  if (!unpacked) return damaged;
  try {
    return readGift(JSON.parse(strFromU8(unpacked)));
  } catch {
    return damaged;
  }
}

/** Takes a gift in; gives the sentence of a refusal, or null. */
export function takeGiftIn(gift: Gift, jointIds: readonly (string | null)[]): string | null {
  return editForField(takeIn(gift, jointIds, newId));
}

/** The gift is dealt with: it goes out of the address as well, so that a reload does not bring it again. */
export function leaveGift(): void {
  giftStore.setState({ gift: null });
  if (location.hash.startsWith(mark)) history.replaceState(history.state, "", location.pathname + location.search);
}

/** Looks at the address for a gift, now and whenever it changes. */
export function useGiftInAddress(): void {
  useEffect(() => {
    const look = () => {
      if (location.hash.startsWith(mark)) giftStore.setState({ gift: giftIn(location.hash) });
    };
    look();
    window.addEventListener("hashchange", look);
    return () => window.removeEventListener("hashchange", look);
  }, []);
}

const base64url = (bytes: Uint8Array) =>
  btoa(String.fromCharCode(...bytes))
    .replaceAll("+", "-")
    .replaceAll("/", "_")
    .replace(/=+$/, "");

function bytesIn(text: string): Uint8Array {
  try {
    return Uint8Array.from(atob(text.replaceAll("-", "+").replaceAll("_", "/")), (letter) => letter.charCodeAt(0));
  } catch {
    return new Uint8Array();
  }
}

/** Unpacked piece by piece, so that a small link cannot become a large one in the memory; null where it is no such thing. */
function inflated(bytes: Uint8Array): Uint8Array | null {
  const pieces: Uint8Array[] = [];
  let size = 0;
  let isWhole = false;
  try {
    const unpacker = new Inflate((piece, isLast) => {
      size += piece.length;
      if (size > mostBytes) throw new Error("too large");
      pieces.push(piece);
      isWhole = isLast;
    });
    const step = 256;
    for (let at = 0; at < bytes.length; at += step)
      unpacker.push(bytes.subarray(at, at + step), at + step >= bytes.length);
  } catch {
    return null;
  }
  if (!isWhole) return null;
  const all = new Uint8Array(size);
  let at = 0;
  for (const piece of pieces) {
    all.set(piece, at);
    at += piece.length;
  }
  return all;
}

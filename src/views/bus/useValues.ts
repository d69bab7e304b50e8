import type { Register } from "@core/project";
import { runOnBus } from "@stores/bus";
import type { BusBench, Device } from "@stores/busBench";
import { useCallback, useEffect, useState } from "react";

export interface Values {
  /** What the device holds, by address; null before it was read. */
  readonly values: ReadonlyMap<number, number> | null;
  readonly said: string;
  readonly isBad: boolean;
  readonly read: () => Promise<void>;
  readonly say: (sentence: string, isBad?: boolean) => void;
  /** Writes a register, says how it went, and shows what it holds now. Gives whether it was taken. */
  readonly write: (register: Register, raw: number, throughTorque: boolean) => Promise<boolean>;
}

/** The registers of a device, read when it is chosen and when asked for. */
export function useValues(bus: BusBench, device: Device | null): Values {
  const boardId = bus.board.id;
  const layoutId = device?.layout.id;
  const id = device?.id;
  const [values, setValues] = useState<ReadonlyMap<number, number> | null>(null);
  const [said, setSaid] = useState({ sentence: "", isBad: false });
  const read = useCallback(async () => {
    if (layoutId === undefined || id === undefined) return;
    const told = await runOnBus(boardId, { kind: "readAll", layoutId, id });
    if (told.kind !== "values") return;
    setValues(told.values);
    setSaid(
      told.values.size === 0
        ? { sentence: `Number ${id} did not answer to a single read.`, isBad: true }
        : { sentence: "", isBad: false },
    );
  }, [boardId, layoutId, id]);
  useEffect(() => {
    setValues(null);
    void read();
  }, [read]);
  const say = (sentence: string, isWrong = false) => setSaid({ sentence, isBad: isWrong });
  const write = async ({ address }: Register, raw: number, throughTorque: boolean): Promise<boolean> => {
    if (layoutId === undefined || id === undefined) return false;
    const told = await runOnBus(boardId, { kind: "write", layoutId, id, address, raw, throughTorque });
    if (told.kind === "refused") say(told.sentence, true);
    if (told.kind !== "written") return false;
    const { isDone, sentence, raw: now } = told.outcome;
    say(sentence, !isDone);
    if (now !== null) setValues((before) => before && new Map(before).set(address, now));
    return isDone;
  };
  return { values, said: said.sentence, isBad: said.isBad, read, say, write };
}

import { storedOfVersion4 } from "@core/bus";
import type { Project } from "@core/project";
import * as z from "zod/mini";

const byteSchema = z.number().check(z.int(), z.gte(0), z.lte(255));
const memoriesSchema = z.record(
  z.string(),
  z.object({ isPlugged: z.boolean(), stored: z.record(z.string(), byteSchema) }),
);

/** What a simulated device keeps while the page is closed: whether it is plugged in, and its stored registers, byte by byte. */
export interface DeviceMemory {
  readonly isPlugged: boolean;
  readonly stored: Readonly<Record<number, number>>;
}

/** By the device's key: its own id, or that of its card. */
export type DeviceMemories = Readonly<Record<string, DeviceMemory>>;

/**
 * The memories of a project's simulated devices as they were kept by some version. They are no part of the document: those that cannot be read are as
 * if the device came out of its box.
 */
export function readMemories(project: Project, version: number, kept: unknown): DeviceMemories {
  const read = memoriesSchema.safeParse(kept);
  if (!read.success) return {};
  const memories = read.data as DeviceMemories;
  if (version > 4) return memories;
  const family = (key: string): string => {
    const card = project.cards.find(({ id }) => id === key);
    return (
      (card?.kind === "smart" && card.layoutId) ||
      (project.simulatedDevices.find(({ id }) => id === key)?.layoutId ?? "")
    );
  };
  return Object.fromEntries(
    Object.entries(memories).map(([key, memory]) => [
      key,
      { ...memory, stored: storedOfVersion4(family(key), memory.stored) },
    ]),
  );
}

import { usualHandOff } from "./handOff";
import { usualOutside } from "./pad";
import type { Project } from "./project";

/** A bench with nothing on it. */
export const emptyProject = (id: string, name: string): Project => ({
  id,
  name,
  cards: [],
  boards: [],
  rigs: [],
  joints: [],
  sources: [],
  leads: [],
  poses: [],
  routines: [],
  takes: [],
  conditions: [],
  supplies: [],
  rails: [],
  runs: [],
  switchOn: [],
  simulated: [],
  layouts: [],
  simulatedDevices: [],
  handOff: usualHandOff,
  pads: [],
  figures: [],
  things: [],
  meshes: [],
  outside: usualOutside,
});

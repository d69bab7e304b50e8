/** The stations, in the order in which people work. The number is also the key that leads there. */
export const stations = [
  {
    id: "signal",
    label: "Signal",
    says: "Which number gives this angle on this board, and what will really come out.",
  },
  { id: "drive", label: "Drive", says: "Move one joint safely, by hand, and watch it." },
  {
    id: "calibrate",
    label: "Calibrate",
    says: "Find the end stops and the true angle of each servo; keep the numbers on its card.",
  },
  { id: "inputs", label: "Inputs", says: "Lead knobs, sticks, switches and sensors to joints, poses and actions." },
  { id: "poses", label: "Poses", says: "Capture, name and go to poses." },
  { id: "routine", label: "Routine", says: "Put poses in order and play them." },
  { id: "bus", label: "Bus", says: "Find, number, read and write smart servos." },
  { id: "remote", label: "Remote", says: "Work the bench from a phone, another room, another machine." },
  { id: "hand-off", label: "Hand-off", says: "Take code tables, wiring and bench sheets to the machine." },
] as const;

export type StationId = (typeof stations)[number]["id"];

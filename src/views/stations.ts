/** The stations, in the order in which people work, each with the key that leads there. */
export const stations = [
  {
    id: "signal",
    key: "1",
    label: "Signal",
    says: "Which number gives this angle on this board, and what will really come out.",
  },
  { id: "drive", key: "2", label: "Drive", says: "Move one joint safely, by hand, and watch it." },
  {
    id: "calibrate",
    key: "3",
    label: "Calibrate",
    says: "Find the end stops and the true angle of each servo; keep the numbers on its card.",
  },
  {
    id: "inputs",
    key: "4",
    label: "Inputs",
    says: "Lead knobs, sticks, switches and sensors to joints, poses and actions.",
  },
  { id: "figure", key: "F", label: "Figure", says: "See the machine itself, move it by the hand, and weigh it." },
  { id: "poses", key: "5", label: "Poses", says: "Capture, name and go to poses." },
  { id: "routine", key: "6", label: "Routine", says: "Put poses in order and play them." },
  { id: "bus", key: "7", label: "Bus", says: "Find, number, read and write smart servos." },
  { id: "power", key: "W", label: "Power", says: "See what feeds what, and what would burn before anything does." },
  { id: "remote", key: "8", label: "Remote", says: "Work the bench from a phone, another room, another machine." },
  { id: "hand-off", key: "9", label: "Hand-off", says: "Take code tables, wiring and bench sheets to the machine." },
] as const;

export type StationId = (typeof stations)[number]["id"];

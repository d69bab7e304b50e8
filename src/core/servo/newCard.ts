import { noAlarms, type ServoCard } from "@core/project";

/** What comes nearest to a servo of each kind out of the box; its sheet says better. Ids are the caller's. */
export function newCard(kind: ServoCard["kind"], id: string, label: string): ServoCard {
  const common = {
    id,
    label,
    endStops: { low: null, high: null },
    splineTeeth: 25,
    notes: "",
    calibrations: [],
    checks: [],
    currents: { idleMa: null, movingMa: null, highestMa: null },
    standing: "inUse",
    checkEveryDays: null,
    wires: { ground: "brown", supply: "red", signal: "orange" },
  } as const;
  const hobby = {
    deadband: 5,
    frameHz: { low: 40, high: 60 },
    rating: {
      secPer60Deg: 0.15,
      accelDegPerS2: null,
      atVolts: 5,
      torqueKgCm: 2,
      stallMa: 700,
      supplyVolts: { low: 4.8, high: 6 },
    },
  };
  switch (kind) {
    case "positional":
      return {
        kind,
        ...common,
        ...hobby,
        window: { low: 500, high: 2500 },
        travelDeg: 180,
        nominal: { low: 1000, high: 2000 },
        feedback: null,
      };
    case "continuous":
      return {
        kind,
        ...common,
        ...hobby,
        window: { low: 900, high: 2100 },
        nominal: { back: 1000, neutral: 1500, forward: 2000 },
      };
    case "smart":
      return {
        kind,
        ...common,
        wires: { ground: "black", supply: "red", signal: "white" },
        window: { low: -10_000, high: 10_000 },
        deadband: 12,
        frameHz: { low: 1, high: 200 },
        rating: {
          secPer60Deg: 0.2,
          accelDegPerS2: null,
          atVolts: 12,
          torqueKgCm: 15,
          stallMa: 1500,
          supplyVolts: { low: 9, high: 12.6 },
        },
        travelDeg: 320,
        nominal: { low: -10_000, high: 10_000 },
        feedback: { unit: "ticks", points: [] },
        layoutId: "kestrel",
        alarms: noAlarms,
      };
  }
}

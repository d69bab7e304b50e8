/**
 * How a person's protractor is laid under the horn. Cards keep the servo's own degrees: 0° at the left end of its travel as one looks
 * down on the shaft, growing clockwise. What is typed is read in the person's convention and turned into those.
 */
export interface Protractor {
  /** Where its 0° lies: at the left end of the travel, or in the middle. */
  readonly zeroAt: "left" | "middle";
  /** Which way its numbers grow. */
  readonly grows: "clockwise" | "anticlockwise";
}

export const plainProtractor: Protractor = { zeroAt: "left", grows: "clockwise" };

/** The servo's own angle for what is read, in degrees. With 0° at the left and growing anticlockwise, it is read from the right end. */
export function servoDegAt({ zeroAt, grows }: Protractor, travelDeg: number, readDeg: number): number {
  const way = grows === "clockwise" ? 1 : -1;
  const zeroDeg = zeroAt === "middle" ? travelDeg / 2 : grows === "clockwise" ? 0 : travelDeg;
  return zeroDeg + way * readDeg;
}

/** What is read where the servo's own angle is `servoDeg`. The inverse of `servoDegAt`. */
export function readDegAt({ zeroAt, grows }: Protractor, travelDeg: number, servoDeg: number): number {
  const way = grows === "clockwise" ? 1 : -1;
  const zeroDeg = zeroAt === "middle" ? travelDeg / 2 : grows === "clockwise" ? 0 : travelDeg;
  return way * (servoDeg - zeroDeg);
}

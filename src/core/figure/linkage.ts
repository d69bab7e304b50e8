import type { Drive } from "@core/project";

type Linkage = Extract<Drive, { kind: "linkage" }>;

const rad = Math.PI / 180;

/**
 * How far the rocker of a four-bar linkage points away from the line between the axles, in radians, for a crank at `crankRad`. The coupler joins their ends:
 * two circles meet in two points, and `isCrossed` takes the other one. Where the bars do not reach one another it is the nearest that they come, stretched
 * straight or folded, so that a figure never falls apart.
 */
function rockerRad({ groundMm, crankMm, couplerMm, rockerMm, isCrossed }: Linkage, crankRad: number): number {
  const [x, y] = [crankMm * Math.cos(crankRad), crankMm * Math.sin(crankRad)];
  const far = Math.hypot(groundMm - x, y);
  const toCrank = Math.atan2(y, x - groundMm);
  const cosine = far > 0 ? (far * far + rockerMm * rockerMm - couplerMm * couplerMm) / (2 * far * rockerMm) : 1;
  const apart = Math.acos(Math.max(-1, Math.min(1, cosine)));
  return isCrossed ? toCrank + apart : toCrank - apart;
}

/** How far the rocker has turned, in degrees, when the crank has turned by `crankWayDeg`. Turns on without a leap where the rocker goes all the way round. */
export function rockerWay(linkage: Linkage, crankWayDeg: number): number {
  const restRad = rockerRad(linkage, linkage.crankAtDeg * rad);
  const wayRad = rockerRad(linkage, (linkage.crankAtDeg + crankWayDeg) * rad) - restRad;
  return Math.atan2(Math.sin(wayRad), Math.cos(wayRad)) / rad;
}

/** Whether the bars still join, with the crank turned by this. */
export function linkageJoins(linkage: Linkage, crankWayDeg: number): boolean {
  const crankRad = (linkage.crankAtDeg + crankWayDeg) * rad;
  const far = Math.hypot(linkage.groundMm - linkage.crankMm * Math.cos(crankRad), linkage.crankMm * Math.sin(crankRad));
  return far <= linkage.couplerMm + linkage.rockerMm && far >= Math.abs(linkage.couplerMm - linkage.rockerMm);
}

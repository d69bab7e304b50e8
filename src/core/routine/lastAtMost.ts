/** The last place of an ascending row whose value is at most `wanted`, or −1, by halving. */
export function lastAtMost(row: Float64Array, wanted: number): number {
  let low = -1;
  let high = row.length;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((row[middle] as number) <= wanted) low = middle;
    else high = middle;
  }
  return low;
}

import { expect, test } from "vitest";
import { siege } from "../fuzz/doors";

test("two thousand messages of no sense or no right at each door: nobody gets in, nothing moves, and who may is heard", async () => {
  const { fault, figures } = await siege(5, 2000);
  console.log(figures.join("\n"));
  expect(fault).toBeNull();
});

import { afterAll, beforeAll, expect, test } from "vitest";
import { freePort } from "../../../tests/e2e/served";
import { LanDoors } from "./lan";

/** Another address of this computer's loopback stands for the network. */
beforeAll(() => {
  process.env.LET_IN = "127.0.0.2";
});
afterAll(() => {
  delete process.env.LET_IN;
});

const knock = (port: number) =>
  fetch(`http://127.0.0.2:${port}/`).then(
    ({ status }) => status,
    () => "nobody",
  );
const doorsAt = (port: number) => new LanDoors(port, () => (_, response) => response.writeHead(404).end());

test("open they are heard at, shut they are not; the last word holds, however quickly it comes", async () => {
  const port = await freePort();
  const doors = doorsAt(port);
  expect([await knock(port), doors.addresses]).toEqual(["nobody", [`http://127.0.0.1:${port}/pad`]]);
  await doors.set(true);
  expect([await knock(port), doors.addresses]).toEqual([404, [`http://127.0.0.2:${port}/pad`]]);
  void doors.set(false);
  void doors.set(true);
  await doors.set(false);
  expect([await knock(port), doors.isOpen]).toEqual(["nobody", false]);
});

test("a port that another program has is said, and nothing is open", async () => {
  const port = await freePort();
  const [one, other] = [doorsAt(port), doorsAt(port)];
  await one.set(true);
  await other.set(true);
  expect(other.isOpen).toBe(false);
  expect(other.trouble).toContain("EADDRINUSE");
  await one.set(false);
});

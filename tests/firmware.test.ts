import { expect, test } from "vitest";
import { feedGarbage, firmwareDifference } from "./fuzz/firmware";

test("the firmware answers 60 000 random lines as the page says, and puts out what it says, with the sanitizers on", () => {
  expect(firmwareDifference(20_261_126, 60_000)).toBeNull();
});

test("the firmware takes 200 000 hostile bytes, and the sanitizers find nothing", () => {
  feedGarbage(7, 200_000);
});

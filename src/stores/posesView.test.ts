import { beforeEach, expect, test } from "vitest";
import { choosePose, posesView } from "./posesView";

const order = ["watch", "left", "up", "blink"];
const chosen = () => posesView.getState().chosenIds;

beforeEach(() => posesView.setState({ chosenIds: [] }));

test("a pose alone; more with Ctrl; the last one touched is the one that is shown", () => {
  choosePose("watch", "alone", order);
  choosePose("up", "toggle", order);
  expect(chosen()).toEqual(["watch", "up"]);
  choosePose("watch", "toggle", order);
  expect(chosen()).toEqual(["up"]);
});

test("a range runs from the last one to the one that is touched, which comes last", () => {
  choosePose("up", "alone", order);
  choosePose("watch", "range", order);
  expect(chosen()).toEqual(["left", "up", "watch"]);
  posesView.setState({ chosenIds: [] });
  choosePose("blink", "range", order);
  expect(chosen()).toEqual(["blink"]);
});

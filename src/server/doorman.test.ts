import { expect, test } from "vitest";
import { innerDoor, whyRefused } from "./doorman";

const ours = { host: "127.0.0.1:4780", origin: "http://127.0.0.1:4780", site: "same-origin", isUpgrade: true };

test("our own pages come in, under any name of this machine", () => {
  for (const name of ["127.0.0.1", "localhost", "[::1]"])
    expect(whyRefused({ ...ours, host: `${name}:4780`, origin: `http://${name}:4780` }, innerDoor(4780))).toBeNull();
  // A page that is only asked for says nothing of where it comes from.
  expect(
    whyRefused({ host: "localhost:4780", origin: undefined, site: undefined, isUpgrade: false }, innerDoor(4780)),
  ).toBeNull();
});

test.each([
  ["another site", { origin: "http://garden.example" }],
  ["another port of this machine", { origin: "http://127.0.0.1:9000" }],
  ["the same by a secure name", { origin: "https://127.0.0.1:4780" }],
  ["a file", { origin: "null" }],
  ["one that does not say where it comes from", { origin: undefined }],
  ["a name that was bound to this machine", { host: "garden.example:4780", origin: "http://garden.example:4780" }],
  [
    "a name that begins as ours",
    { host: "localhost.garden.example:4780", origin: "http://localhost.garden.example:4780" },
  ],
  ["no name at all", { host: undefined }],
  ["our name on another port", { host: "127.0.0.1:80", origin: "http://127.0.0.1:80" }],
  ["a page that another site shows", { site: "cross-site" }],
])("%s is refused, in a sentence", (_, change) => {
  expect(whyRefused({ ...ours, ...change }, innerDoor(4780))).toMatch(/\.$/);
});

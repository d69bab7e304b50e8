import { atRest } from "./atRest";

console.log((await atRest()).join("\n"));

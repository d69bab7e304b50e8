import { hourOnScreen } from "./hourOnScreen";

for (const l of await hourOnScreen()) console.log(l);
process.exit(0);

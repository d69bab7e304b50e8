import { hiddenTab } from "./hiddenTab";

for (const l of [...(await hiddenTab())]) console.log(l);
process.exit(0);

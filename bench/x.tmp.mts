import { reduction, sampling } from "./performance";

for (const l of [...sampling(), ...reduction()]) console.log(l);
process.exit(0);

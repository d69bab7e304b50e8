import { firstPage } from "./firstPage";
for (const l of firstPage()) console.log(l);

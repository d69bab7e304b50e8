import { crowdScore } from "./performance";
import { readyScore, jointsOf } from "../src/core/routine";
const { project, score } = crowdScore(3_600_000);
for (let i=0;i<5;i++){ const t=performance.now(); readyScore(project, score.routine, new Map()); const a=performance.now(); jointsOf(project, score.routine); const b=performance.now(); structuredClone(score.routine); const c=performance.now(); console.log((a-t).toFixed(1),(b-a).toFixed(1),(c-b).toFixed(1)); }
process.exit(0);

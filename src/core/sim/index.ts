export { seededRandom, seedOf } from "./random";
export { trueAngleDeg, truthOf } from "./servoTruth";
export { SimBoard } from "./simBoard";
export { SimServo } from "./simServo";

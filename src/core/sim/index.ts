export { seededRandom, seedOf } from "./random";
export { faultlessTruth, trueAngleDeg, truthOf } from "./servoTruth";
export { SimBoard } from "./simBoard";
export { SimServo } from "./simServo";

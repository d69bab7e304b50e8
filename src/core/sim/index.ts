export { Burdens } from "./burdens";
export { Radio } from "./radio";
export { seededRandom, seedOf } from "./random";
export { faultlessTruth, trueAngleDeg, truthOf } from "./servoTruth";
export { SimBoard } from "./simBoard";
export { type BusFaults, noFaults, SimBus } from "./simBus";
export { type DeviceReply, SimDevice, type StoredRegisters } from "./simDevice";
export { SimPower } from "./simPower";
export { SimServo } from "./simServo";

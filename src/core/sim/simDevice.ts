import {
  checkRaw,
  dissect,
  encodePacket,
  errorByteOf,
  isAnswered,
  type Packet,
  rawBytes,
  rawIn,
  reachOf,
  registerFor,
  shownOf,
  toldIn,
  turnOf,
} from "@core/bus";
import type { Layout, Operation, Register, RegisterRole, TroubleCause } from "@core/project";
import type { SimServo } from "./simServo";

const roomC = 24;
/** Pushing against a stop for so long, it lets go. */
const overloadAfterMs = 2500;
const maxLoad = 100;
/** What one of a velocity's unit is worth, in degrees per second; a hundred per cent are 50 rpm. */
const degPerSPer: Readonly<Record<string, number>> = { rpm: 6, "°/s": 1, "%": 3 };

/** What its registers hold without supply: the bytes of those that are stored, by address. */
export type StoredRegisters = Readonly<Record<number, number>>;

/** The answer of a device, and how long after the end of the request it begins. */
export interface DeviceReply {
  readonly bytes: Uint8Array;
  readonly afterUs: number;
  /** At which speed it is sent. */
  readonly bitsPerS: number;
}

/**
 * A simulated smart servo at the far end of a bus: it takes the very bytes that a real one would get, keeps silent about what is not for it or has a
 * wrong check, and turns a simulated servo by what stands in its registers.
 */
export class SimDevice {
  readonly layout: Layout;
  readonly servo: SimServo;
  /** Forced troubles, as asked for by whoever wants to see them. */
  isOverloaded = false;
  isHot = false;
  /** How much later than its register says it answers, in µs: no two clocks are the same. */
  readonly slackUs: number;
  readonly #bytes: Uint8Array;
  readonly #onStored: () => void;
  /** What is wrong with it, until it is gone. */
  readonly #troubles = new Set<TroubleCause>();
  #temperatureC = roomC;
  #pushingMs = 0;
  #volts = 12;
  #goalSet = false;

  constructor(layout: Layout, servo: SimServo, stored: StoredRegisters, slackUs: number, onStored: () => void) {
    this.layout = layout;
    this.servo = servo;
    this.slackUs = slackUs;
    this.#onStored = onStored;
    const end = Math.max(0, ...layout.registers.map(reachOf).map(({ address, size }) => address + size));
    this.#bytes = new Uint8Array(end);
    for (const register of layout.registers) this.#set(register, register.default);
    for (const [address, byte] of Object.entries(stored))
      if (Number(address) < end) this.#bytes[Number(address)] = byte;
    this.#sense();
  }

  get id(): number {
    return this.read("id") ?? 0;
  }

  get bitsPerS(): number {
    const value = this.read("bitRate");
    return this.layout.bitRates.find((rate) => rate.value === value)?.bitsPerS ?? this.layout.defaultBitsPerS;
  }

  get isHeld(): boolean {
    return this.read("torque") !== 0;
  }

  /** What draws on the supply, in per cent of full load. */
  get loadPercent(): number {
    if (!this.isHeld) return 0;
    if (this.isOverloaded || this.servo.isStalled) return maxLoad;
    return Math.min(maxLoad, Math.max(this.servo.isTurning ? 32 : 6, 100 * Math.abs(this.servo.burden)));
  }

  /** Those of its bytes that it keeps without supply. */
  get stored(): StoredRegisters {
    const kept: Record<number, number> = {};
    for (const { address, size, memory } of this.layout.registers)
      if (memory === "stored")
        for (let at = address; at < address + size; at += 1) kept[at] = this.#bytes[at] as number;
    return kept;
  }

  /** What stands in the register with a role; null where the family has none. */
  read(role: RegisterRole): number | null {
    const register = registerFor(this.layout, role);
    return register && rawIn(this.layout, register, this.#bytes, register.address);
  }

  /** Sets a register from inside, past all rules and without a word: how it comes to the bench. */
  set(role: RegisterRole, raw: number): void {
    this.#setRole(role, raw);
  }

  /** The same as a fault that a person asks for: it stays. */
  force(role: RegisterRole, raw: number): void {
    this.set(role, raw);
    this.#onStored();
  }

  /** The supply was gone for a moment: what is not stored is forgotten, and it is limp. */
  restart(): void {
    for (const register of this.layout.registers)
      if (register.memory === "volatile") this.#set(register, register.default);
    this.#troubles.clear();
    this.#pushingMs = 0;
    this.#goalSet = false;
    this.#sense();
  }

  /** Takes the bytes of one packet, and gives its answer; null where it keeps silent. */
  receive(bytes: Uint8Array): DeviceReply | null {
    const { packet } = dissect(this.layout, "request", bytes);
    if (!packet) return null;
    const isForAll = packet.id === this.layout.broadcastId;
    if (!isForAll && packet.id !== this.id) return null;
    const [id, bitsPerS] = [this.id, this.bitsPerS];
    const operation = this.layout.operations.find(({ code }) => code === packet.operation);
    const { refusal, data } = operation ? this.#obey(operation, packet) : { refusal: "operation" as const, data: [] };
    const isMine = operation?.kind === "groupRead" && this.#placeIn(packet, operation) >= 0;
    if ((isForAll && !isMine) || (operation && !isAnswered(operation, packet))) return null;
    const reply: Packet = {
      direction: "reply",
      id,
      operation: packet.operation,
      asksReply: false,
      // What is wrong with the request is told before what is wrong with the servo.
      error: this.#errorByte(refusal),
      parameters: Uint8Array.from(refusal === null ? data : []),
    };
    const delay = registerFor(this.layout, "replyDelay");
    const delayUs = delay ? shownOf(delay, this.read("replyDelay") ?? 0) : 250;
    const encoded = encodePacket(this.layout, reply);
    const before = isMine ? this.#placeIn(packet, operation as Operation) : 0;
    const turnUs = (encoded.length * this.layout.bitsPerByte * 1e6) / bitsPerS + delayUs + 200;
    return { bytes: encoded, afterUs: delayUs + this.slackUs + before * turnUs, bitsPerS };
  }

  /** Lets time pass with so many volts on the wire. */
  advance(dtMs: number, volts: number): void {
    this.#volts = volts;
    const [low, high] = [this.#shown("lowestVoltage"), this.#shown("highestVoltage")];
    this.#troubleIf("voltage", (low !== null && volts < low) || (high !== null && volts > high));
    this.#move(dtMs);
    const share = this.loadPercent / 100;
    const warmC = this.isHot ? 96 : roomC + 60 * share * share;
    this.#temperatureC += ((warmC - this.#temperatureC) * dtMs) / (this.isHot ? 2000 : 40_000);
    const hottest = this.#shown("highestTemperature");
    if (hottest !== null && this.#temperatureC > hottest) this.#letGo("temperature");
    else if (!this.isHot) this.#troubleIf("temperature", false);
    this.#pushingMs = this.loadPercent >= maxLoad ? this.#pushingMs + dtMs : 0;
    if (this.#pushingMs > overloadAfterMs) this.#letGo("overload");
    this.#sense();
  }

  #move(dtMs: number): void {
    if (!this.isHeld) {
      this.servo.step(dtMs, Number.NaN);
      return;
    }
    const mode = this.layout.modes.find(({ value }) => value === this.read("mode"));
    if (mode?.kind === "velocity") {
      const register = registerFor(this.layout, "goalVelocity");
      const asked = register ? shownOf(register, this.read("goalVelocity") ?? 0) : 0;
      this.servo.spin(dtMs, asked * (degPerSPer[register?.unit ?? ""] ?? 0));
      return;
    }
    // Switched on without a goal, it stays where it is.
    if (!this.#goalSet) this.#setRole("goalPosition", this.read("position") ?? 0);
    this.#goalSet = true;
    const goal = this.read("goalPosition") ?? 0;
    if (mode?.kind === "multiTurn") this.servo.step(dtMs, goal, true);
    else this.servo.step(dtMs, this.#withinTurn(goal, mode?.atEnd ?? "clamp"));
  }

  /** A goal beyond the ends of the turn: held at the end, or taken round. */
  #withinTurn(goal: number, atEnd: "clamp" | "wrap"): number {
    const low = this.read("lowestPosition") ?? 0;
    const high = this.read("highestPosition") ?? goal;
    const turn = turnOf(this.layout);
    const [first, full] = turn ? [turn.low, turn.high - turn.low + 1] : [low, high - low + 1];
    const round = atEnd === "wrap" ? ((((goal - first) % full) + full) % full) + first : goal;
    return Math.max(low, Math.min(high, round));
  }

  #errorByte(refusal: TroubleCause | null): number {
    if (refusal === null) return errorByteOf(this.layout, this.#troubles);
    if (this.layout.errors.kind === "codes") return errorByteOf(this.layout, new Set([refusal]));
    return errorByteOf(this.layout, new Set([...this.#troubles, refusal]));
  }

  /** Does what it is told; what it does not take it refuses, and says why. */
  #obey(operation: Operation, packet: Packet): { refusal: TroubleCause | null; data: readonly number[] } {
    const done = { refusal: null, data: [] };
    const told = toldIn(this.layout, operation, packet.parameters);
    if (!told) return { refusal: "operation", data: [] };
    const { address = 0, count = 0 } = told;
    switch (operation.kind) {
      case "ping":
        return { refusal: null, data: operation.reply?.length ? this.#bytesOf("model") : [] };
      case "read":
      case "groupRead":
        return address + count > this.#bytes.length
          ? { refusal: "range", data: [] }
          : { refusal: null, data: this.#bytesAt(address, count) };
      case "write":
        return { refusal: this.#write(address, Array.from(told.data ?? [])), data: [] };
      case "groupWrite": {
        const mine = told.each?.find(({ id }) => id === this.id);
        return { refusal: mine ? this.#write(address, Array.from(mine.data ?? [])) : null, data: [] };
      }
      case "restart":
        this.restart();
        return done;
      case "factoryReset":
        for (const register of this.layout.registers) this.#set(register, register.default);
        this.restart();
        this.#onStored();
        return done;
      case "other":
        return done;
    }
  }

  #placeIn(packet: Packet, operation: Operation): number {
    const told = toldIn(this.layout, operation, packet.parameters);
    return told?.each?.findIndex(({ id }) => id === this.id) ?? -1;
  }

  /** Writes register after register; the first that may not be written ends it, and nothing of it is kept. */
  #write(address: number, data: readonly number[]): TroubleCause | null {
    const writes: { register: Register; raw: number; bytes: readonly number[] }[] = [];
    for (let at = 0; at < data.length; ) {
      const register = this.layout.registers.find((one) => one.address === address + at);
      if (!register || at + register.size > data.length) return "range";
      const raw = rawIn(this.layout, register, data, at);
      if (!checkRaw(register, raw).ok) return "range";
      if (register.needsTorqueOff && this.isHeld) return "torque";
      writes.push({ register, raw, bytes: data.slice(at, at + register.size) });
      at += register.size;
    }
    for (const { register, raw, bytes } of writes) {
      if (register.role === "torque" && raw !== 0) this.#troubles.delete("overload");
      if (register.role === "goalPosition") this.#goalSet = true;
      if (register.role === "torque" && raw === 0) this.#goalSet = false;
      this.#bytes.set(bytes, register.address);
    }
    if (writes.some(({ register }) => register.memory === "stored")) this.#onStored();
    return null;
  }

  #letGo(cause: TroubleCause): void {
    this.#troubles.add(cause);
    this.#setRole("torque", 0);
    this.#goalSet = false;
    this.#pushingMs = 0;
    if (cause === "overload") this.isOverloaded = false;
  }

  #troubleIf(cause: TroubleCause, isSo: boolean): void {
    if (isSo) this.#troubles.add(cause);
    else this.#troubles.delete(cause);
  }

  /** What it knows of itself goes into its registers. */
  #sense(): void {
    const { servo } = this;
    const position = registerFor(this.layout, "position");
    if (position)
      this.#set(position, Math.max(position.low, Math.min(position.high, Math.round(servo.readTurns() || 0))));
    const sign = servo.isStalled ? 1 : servo.isTurning ? 1 : 0;
    this.#setShown("load", this.loadPercent * (sign || 1));
    this.#setShown("voltage", this.#volts);
    this.#setShown("temperature", Math.round(this.#temperatureC));
    this.#setShown("current", Math.round(servo.readCurrentMa() || 0));
    const velocity = this.read("goalVelocity") ?? 0;
    const isVelocity = this.layout.modes.find(({ value }) => value === this.read("mode"))?.kind === "velocity";
    this.#setRole("velocity", isVelocity && this.isHeld ? velocity : 0);
    this.#setRole("isMoving", servo.isTurning && this.isHeld ? 1 : 0);
    this.#setRole("trouble", errorByteOf(this.layout, this.#troubles));
  }

  #shown(role: RegisterRole): number | null {
    const register = registerFor(this.layout, role);
    return register && shownOf(register, this.read(role) ?? 0);
  }

  #setShown(role: RegisterRole, value: number): void {
    const register = registerFor(this.layout, role);
    if (register)
      this.#set(
        register,
        Math.max(register.low, Math.min(register.high, Math.round((value - register.offset) / register.scale))),
      );
  }

  #setRole(role: RegisterRole, raw: number): void {
    const register = registerFor(this.layout, role);
    if (register) this.#set(register, raw);
  }

  #set(register: Register, raw: number): void {
    this.#bytes.set(rawBytes(this.layout, register, raw), reachOf(register).address);
  }

  #bytesOf(role: RegisterRole): number[] {
    const register = registerFor(this.layout, role);
    return register ? this.#bytesAt(register.address, register.size) : [];
  }

  #bytesAt(address: number, count: number): number[] {
    return [...this.#bytes.subarray(address, address + count)];
  }
}

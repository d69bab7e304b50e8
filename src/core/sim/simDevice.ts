import { checkRaw, dissect, encodePacket, type Packet, rawBytes, rawIn, registerFor, shownOf, toldIn } from "@core/bus";
import type { Layout, Operation, Register, RegisterRole } from "@core/project";
import type { SimServo } from "./simServo";

const bit = { voltage: 1, range: 2, torque: 4, operation: 8, temperature: 16, overload: 32 };
const roomC = 24;
/** Pushing against a stop for so long, it lets go. */
const overloadAfterMs = 2500;
const maxLoad = 100;

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
  #trouble = 0;
  #temperatureC = roomC;
  #pushingMs = 0;
  #volts = 12;
  #goalSet = false;

  constructor(layout: Layout, servo: SimServo, stored: StoredRegisters, slackUs: number, onStored: () => void) {
    this.layout = layout;
    this.servo = servo;
    this.slackUs = slackUs;
    this.#onStored = onStored;
    const end = Math.max(0, ...layout.registers.map((register) => register.address + register.size));
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
    return this.isOverloaded || this.servo.isStalled ? maxLoad : this.servo.isTurning ? 32 : 6;
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
    this.#trouble = 0;
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
    const { error, data } = operation ? this.#obey(operation, packet) : { error: bit.operation, data: [] };
    const isMine = operation?.kind === "groupRead" && this.#placeIn(packet, operation) >= 0;
    if ((isForAll && !isMine) || operation?.reply === null) return null;
    const reply: Packet = {
      direction: "reply",
      id,
      operation: packet.operation,
      error: error | this.#trouble,
      parameters: Uint8Array.from(error === 0 ? data : []),
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
    this.#troubleIf(bit.voltage, (low !== null && volts < low) || (high !== null && volts > high));
    this.#move(dtMs);
    const share = this.loadPercent / 100;
    const warmC = this.isHot ? 96 : roomC + 60 * share * share;
    this.#temperatureC += ((warmC - this.#temperatureC) * dtMs) / (this.isHot ? 2000 : 40_000);
    const hottest = this.#shown("highestTemperature");
    if (hottest !== null && this.#temperatureC > hottest) this.#letGo(bit.temperature);
    else if (!this.isHot) this.#troubleIf(bit.temperature, false);
    this.#pushingMs = this.loadPercent >= maxLoad ? this.#pushingMs + dtMs : 0;
    if (this.#pushingMs > overloadAfterMs) this.#letGo(bit.overload);
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
      this.servo.spin(dtMs, register?.unit === "rpm" ? asked * 6 : (asked / 100) * 300);
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
    const full = (registerFor(this.layout, "highestPosition")?.high ?? high) + 1;
    const round = atEnd === "wrap" ? ((goal % full) + full) % full : goal;
    return Math.max(low, Math.min(high, round));
  }

  #obey(operation: Operation, packet: Packet): { error: number; data: readonly number[] } {
    const told = toldIn(this.layout, operation, packet.parameters);
    if (!told) return { error: bit.operation, data: [] };
    const { address = 0, count = 0 } = told;
    switch (operation.kind) {
      case "ping":
        return { error: 0, data: operation.reply?.length ? this.#bytesAt(0, 3) : [] };
      case "read":
      case "groupRead":
        return address + count > this.#bytes.length
          ? { error: bit.range, data: [] }
          : { error: 0, data: this.#bytesAt(address, count) };
      case "write":
        return { error: this.#write(address, Array.from(told.data ?? [])), data: [] };
      case "groupWrite": {
        const mine = told.each?.find(({ id }) => id === this.id);
        return { error: mine ? this.#write(address, Array.from(mine.data ?? [])) : 0, data: [] };
      }
      case "restart":
        this.restart();
        return { error: 0, data: [] };
      case "factoryReset":
        for (const register of this.layout.registers) this.#set(register, register.default);
        this.restart();
        this.#onStored();
        return { error: 0, data: [] };
      case "other":
        return { error: 0, data: [] };
    }
  }

  #placeIn(packet: Packet, operation: Operation): number {
    const told = toldIn(this.layout, operation, packet.parameters);
    return told?.each?.findIndex(({ id }) => id === this.id) ?? -1;
  }

  /** Writes register after register; the first that may not be written ends it, and nothing of it is kept. */
  #write(address: number, data: readonly number[]): number {
    const writes: { register: Register; raw: number }[] = [];
    for (let at = 0; at < data.length; ) {
      const register = this.layout.registers.find((one) => one.address === address + at);
      if (!register || at + register.size > data.length) return bit.range;
      const raw = rawIn(this.layout, register, data, at);
      if (!checkRaw(register, raw).ok) return bit.range;
      if (register.needsTorqueOff && this.isHeld) return bit.torque;
      writes.push({ register, raw });
      at += register.size;
    }
    for (const { register, raw } of writes) {
      if (register.role === "torque" && raw !== 0 && this.#trouble & (bit.temperature | bit.overload))
        this.#trouble &= ~bit.overload;
      if (register.role === "goalPosition") this.#goalSet = true;
      if (register.role === "torque" && raw === 0) this.#goalSet = false;
      this.#set(register, raw);
    }
    if (writes.some(({ register }) => register.memory === "stored")) this.#onStored();
    return 0;
  }

  #letGo(cause: number): void {
    this.#trouble |= cause;
    this.#setRole("torque", 0);
    this.#goalSet = false;
    this.#pushingMs = 0;
    if (cause === bit.overload) this.isOverloaded = false;
  }

  #troubleIf(cause: number, isSo: boolean): void {
    if (isSo) this.#trouble |= cause;
    else this.#trouble &= ~cause;
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
    this.#setRole("trouble", this.#trouble);
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
    this.#bytes.set(rawBytes(this.layout, register, raw), register.address);
  }

  #bytesAt(address: number, count: number): number[] {
    return [...this.#bytes.subarray(address, address + count)];
  }
}

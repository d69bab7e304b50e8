import type { Layout } from "@core/project";

/** How long so many bytes take on the wire, in µs: bytes × bits / speed. */
export const wireUs = (bytes: number, bitsPerByte: number, bitsPerS: number): number =>
  (bytes * bitsPerByte * 1e6) / bitsPerS;

/** One stretch of time on the wire. */
export interface WireSpan {
  readonly kind: "request" | "turnRound" | "reply" | "group";
  readonly label: string;
  readonly fromUs: number;
  readonly toUs: number;
}

/** What is asked of the wire in every frame. */
export interface WirePlan {
  readonly layout: Layout;
  readonly devices: number;
  readonly bitsPerS: number;
  readonly frameHz: number;
  /** Bytes written to each device: its goal. */
  readonly writtenBytes: number;
  /** Bytes read back from each device; 0 for none. */
  readonly readBytes: number;
  /** How targets go out. */
  readonly writes: "one by one" | "as a group";
  /** How many devices are read in a frame; the others have their turn in the next ones. */
  readonly readsPerFrame: number;
  /** What a device waits before it answers. */
  readonly replyDelayUs: number;
  /** What the adapter needs to turn its driver off, or to begin anew. */
  readonly gapUs: number;
}

export interface WireUse {
  readonly spans: readonly WireSpan[];
  readonly usedUs: number;
  readonly frameUs: number;
  /** More than 1 cannot be kept. */
  readonly share: number;
  /** The fastest frame rate that this could be kept at. */
  readonly highestHz: number;
  /** How many devices at this frame rate. */
  readonly mostDevices: number;
}

/** The bytes of a packet of the family with so many parameters, without stuffing. */
export function packetBytes(layout: Layout, direction: "request" | "reply", parameters: number): number {
  const fields = direction === "request" ? layout.requestFields : layout.replyFields;
  let bytes = parameters;
  for (const field of fields) {
    if (field === "header")
      bytes += (direction === "reply" && layout.replyHeader ? layout.replyHeader : layout.header).length;
    else if (field === "length") bytes += layout.length.size;
    else if (field === "check") bytes += layout.check.rule.kind === "crc" ? layout.check.rule.bits / 8 : 1;
    else if (field !== "parameters") bytes += 1;
  }
  return bytes;
}

/** One frame on the wire, span by span, and how much of it is used. */
export function wireUse(plan: WirePlan): WireUse {
  const spans = spansOf(plan);
  const usedUs = spans.at(-1)?.toUs ?? 0;
  const frameUs = 1e6 / plan.frameHz;
  let mostDevices = 0;
  const fits = (devices: number) => {
    const readsPerFrame = plan.readsPerFrame >= plan.devices ? devices : Math.min(plan.readsPerFrame, devices);
    return (spansOf({ ...plan, devices, readsPerFrame }).at(-1)?.toUs ?? 0) <= frameUs;
  };
  while (mostDevices < plan.layout.highestId && fits(mostDevices + 1)) mostDevices += 1;
  return {
    spans,
    usedUs,
    frameUs,
    share: usedUs / frameUs,
    highestHz: usedUs > 0 ? 1e6 / usedUs : Infinity,
    mostDevices,
  };
}

function spansOf(plan: WirePlan): WireSpan[] {
  const { layout, bitsPerS, gapUs } = plan;
  const spans: WireSpan[] = [];
  let atUs = 0;
  const add = (kind: WireSpan["kind"], label: string, us: number) => {
    spans.push({ kind, label, fromUs: atUs, toUs: atUs + us });
    atUs += us;
  };
  const bytesUs = (bytes: number) => wireUs(bytes, layout.bitsPerByte, bitsPerS);
  const ask = (label: string, parameters: number, answered: number) => {
    add("request", label, bytesUs(packetBytes(layout, "request", parameters)));
    add("turnRound", "the device waits, the driver turns off", Math.max(plan.replyDelayUs, gapUs));
    add("reply", `${label}: its answer`, bytesUs(packetBytes(layout, "reply", answered)));
    add("turnRound", "the driver turns on", gapUs);
  };
  const pieceBytes = (kind: "write" | "read" | "groupWrite") => {
    const operation = layout.operations.find((one) => one.kind === kind);
    return (operation?.request ?? []).reduce(
      (sum, piece) =>
        sum +
        (piece.kind === "address" || piece.kind === "count"
          ? piece.size
          : piece.kind === "constant"
            ? piece.bytes.length
            : 0),
      0,
    );
  };
  // A family that answers only when asked is not asked about goals: they come anew in every frame.
  const write = layout.operations.find(({ kind }) => kind === "write");
  const isWriteAnswered = write?.reply !== null && write?.answers !== "when asked";
  if (plan.writes === "as a group" && plan.devices > 0) {
    const parameters = pieceBytes("groupWrite") + plan.devices * (1 + plan.writtenBytes);
    add("group", `goals of all ${plan.devices}`, bytesUs(packetBytes(layout, "request", parameters)));
    add("turnRound", "a pause, so that the next packet is seen as one", gapUs);
  } else
    for (let device = 1; device <= plan.devices; device += 1) {
      const parameters = pieceBytes("write") + plan.writtenBytes;
      if (isWriteAnswered) ask(`goal of ${device}`, parameters, 0);
      else {
        add("request", `goal of ${device}`, bytesUs(packetBytes(layout, "request", parameters)));
        add("turnRound", "a pause, so that the next packet is seen as one", gapUs);
      }
    }
  if (plan.readBytes > 0)
    for (let device = 1; device <= plan.readsPerFrame; device += 1)
      ask(`read ${device}`, pieceBytes("read"), plan.readBytes);
  return spans;
}

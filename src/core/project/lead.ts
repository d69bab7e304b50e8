import { cueNameSchema } from "@core/origins";
import { type DeepReadonly, durationMs, idSchema, listUpTo } from "@core/schema";
import { shaperSchema } from "@core/shapers";
import * as z from "zod/mini";

export const targetSchema = z.discriminatedUnion("kind", [
  /** A joint's angle in degrees, or a spin of −1…+1. */
  z.strictObject({ kind: z.literal("joint"), jointId: idSchema }),
  /** 0 is the one pose, 1 the other, for the joints that both have. */
  z.strictObject({ kind: z.literal("blend"), fromPoseId: idSchema, toPoseId: idSchema }),
  /** Where a tip is, along one direction of the table, in mm; for one that looks, where the place is that it looks at. Its joints follow. */
  z.strictObject({ kind: z.literal("tip"), tipId: idSchema, along: z.enum(["x", "y", "z"]) }),
  /** Done each time the chain switches on. */
  z.strictObject({
    kind: z.literal("action"),
    action: z.discriminatedUnion("kind", [
      z.strictObject({ kind: z.literal("goToPose"), poseId: idSchema, moveMs: durationMs }),
      z.strictObject({ kind: z.literal("play"), routineId: idSchema }),
      z.strictObject({ kind: z.literal("stop") }),
      z.strictObject({ kind: z.literal("pause") }),
      z.strictObject({ kind: z.literal("next") }),
      z.strictObject({ kind: z.literal("previous") }),
      z.strictObject({ kind: z.literal("release") }),
      z.strictObject({ kind: z.literal("capture") }),
      /** Says a cue to other benches and machines. */
      z.strictObject({ kind: z.literal("cue"), name: cueNameSchema }),
    ]),
  }),
]);

/** A path from a source to a target through a chain of shapers, in order. */
export const leadSchema = z.strictObject({
  id: idSchema,
  sourceId: idSchema,
  target: targetSchema,
  shapers: listUpTo(shaperSchema, 20),
  isMuted: z.boolean(),
});

export type Lead = DeepReadonly<z.infer<typeof leadSchema>>;
export type LeadTarget = Lead["target"];
/** A direction of the table: forward, to the left, up. */
export type TableAxis = Extract<LeadTarget, { kind: "tip" }>["along"];

/** The joint that a lead moves, where it moves just one. */
export const jointOfLead = (lead: Lead): string | null => (lead.target.kind === "joint" ? lead.target.jointId : null);

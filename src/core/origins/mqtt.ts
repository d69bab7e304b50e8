import { textUpTo } from "@core/schema";
import * as z from "zod/mini";
import { afarKeys, silence, taken } from "./afar";
import { type OriginKind, thousand } from "./originKind";

/** A number that arrives under a topic of this bench (see `docs/messages.md`). */
const schema = z.strictObject({
  kind: z.literal("mqtt"),
  topic: textUpTo(60).check(z.regex(/^[^+#/\s]+(\/[^+#/\s]+)*$/)),
  ...taken,
});

export const mqtt: OriginKind<typeof schema> = {
  schema,
  name: "Message (MQTT)",
  begin: () => [{ origin: { kind: "mqtt", topic: "knob", isHand: true, silentAfterMs: null }, range: thousand }],
  words: ({ topic }) => `message “in/${topic}”`,
  isSteady: ({ isHand }) => !isHand,
  silentAfterMs: silence,
  afarKey: ({ topic }) => afarKeys.mqtt(topic),
};

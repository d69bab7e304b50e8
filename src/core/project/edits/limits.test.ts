import { expect, test } from "vitest";
import * as z from "zod/mini";
import { limitSentence } from "./limits";

const said = (schema: z.ZodMiniType, value: unknown) => limitSentence(schema.safeParse(value).error?.issues[0]);

test("a person is told what would be right, in words of the bench and not of a schema", () => {
  const share = z.number().check(z.gte(0), z.lte(100));
  expect(said(share, -1)).toBe("This must be at least 0.");
  expect(said(share, 101)).toBe("This can be at most 100.");
  expect(said(z.number().check(z.gt(0)), 0)).toBe("This must be more than 0.");
  expect(said(z.int(), 1.5)).toBe("This must be a whole number.");
  expect(said(share, Number.NaN)).toBe("This must be a number.");
  expect(said(z.enum(["a", "b"]), "c")).toBe("This does not fit here.");
  const even = z.number().check(z.refine((one) => one % 2 === 0, { error: "it takes pairs" }));
  expect(said(even, 3)).toBe("This cannot be: it takes pairs.");
});

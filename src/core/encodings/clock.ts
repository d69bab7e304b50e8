import { finite } from "@core/schema";
import * as z from "zod/mini";

/** A clock that a signal is counted out from. */
export const clockHzSchema = finite.check(z.gte(1000), z.lte(1e9));

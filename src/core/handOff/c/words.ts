import { commentOf } from "../describe";

/** A name as C writes its constants. */
export const upper = (name: string): string => name.toUpperCase();

/** Words that no comment of C ends in, and none begins in. */
export const comment = (text: string): string => commentOf(text).replaceAll("*/", "* /").replaceAll("/*", "/ *");

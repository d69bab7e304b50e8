/** A name as C writes its constants. */
export const upper = (name: string): string => name.toUpperCase();

/** Words that no comment of C ends in. */
export const comment = (text: string): string => text.replace(/\*\//g, "* /").replace(/[\r\n]+/g, " ");

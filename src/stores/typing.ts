/** Inputs that take no letters: a key pressed on them is meant for the bench. */
const wordless: ReadonlySet<string> = new Set([
  "checkbox",
  "radio",
  "button",
  "file",
  "range",
  "submit",
  "reset",
  "color",
]);

/** Whether somebody types where a key press went: then it is theirs, and no key of the bench. */
export const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement
    ? !wordless.has(target.type)
    : target instanceof HTMLElement && (target.isContentEditable || ["TEXTAREA", "SELECT"].includes(target.tagName));

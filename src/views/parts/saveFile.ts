/** Hands a file to the person through the browser's own download. */
export const saveFile = (name: string, content: string, type: string): void => save(name, content, type);

/** The same of bytes. */
export const saveBytes = (name: string, bytes: Uint8Array, type: string): void =>
  save(name, bytes as Uint8Array<ArrayBuffer>, type);

function save(name: string, content: BlobPart, type: string): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  // Later: some browsers read the address only after the click was handled.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

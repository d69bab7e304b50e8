/** Hands a file to the person through the browser's own download. */
export function saveFile(name: string, content: string, type: string): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  // Later: some browsers read the address only after the click was handled.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

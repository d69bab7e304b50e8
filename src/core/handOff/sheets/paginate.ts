/** Items on pages in their order, each page as full as it goes. What is higher than a page stands alone on one. */
export function paginate<Item>(
  items: readonly Item[],
  heightMm: (item: Item) => number,
  room: number,
): readonly (readonly Item[])[] {
  const pages: Item[][] = [];
  let left = 0;
  for (const item of items) {
    const height = heightMm(item);
    if (pages.length === 0 || height > left) {
      pages.push([]);
      left = room;
    }
    pages.at(-1)?.push(item);
    left -= height;
  }
  return pages;
}

/** How many lines a text takes where so many letters stand in one. */
export const linesOf = (text: string, letters: number): number =>
  text.split("\n").reduce((sum, line) => sum + Math.max(1, Math.ceil(line.length / letters)), 0);

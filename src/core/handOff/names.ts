/** Words of C99 and Python 3 that no name may be, and the names that handed-off code uses for itself. */
const taken = new Set(
  `auto break case char const continue default do double else enum extern float for goto if inline int long register restrict return short
  signed sizeof static struct switch typedef union unsigned void volatile while bool true false main
  and as assert async await class def del elif except finally from global import in is lambda nonlocal not or pass raise try with yield
  match type none print len range min max abs round sum list dict set int8_t int16_t int32_t int64_t uint8_t uint16_t uint32_t uint64_t null
  count let floor fabs isnan nan asm typeof exp log sin cos tan pow sqrt index time y0 y1 yn j0 j1 jn gamma`
    .split(/\s+/)
    .filter(Boolean),
);

/** Letters that are more than a plain one with a mark. */
const plain: Readonly<Record<string, string>> = {
  ß: "ss",
  æ: "ae",
  œ: "oe",
  ø: "o",
  ł: "l",
  đ: "d",
  ð: "d",
  þ: "th",
  ı: "i",
};

/**
 * The words of a label as a name that C and Python take: `Neck turn` is `neck_turn`. Marks on letters fall away; what no letter can be found for does, too. Empty
 * where nothing is left.
 */
export function plainName(label: string): string {
  const letters = label
    .toLowerCase()
    .replace(/[ßæœøłđðþı]/g, (letter) => plain[letter] ?? "")
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "");
  return letters.slice(0, 40).replace(/_+$/, "");
}

/**
 * A name for each label, all different, in their order. A label in another script is called by what it is and its number; one that is a word of a language, or begins
 * with a digit, gets what it is before it.
 */
export function namesFor(labels: readonly string[], what: string): readonly string[] {
  const used = new Set<string>();
  return labels.map((label, at) => {
    const own = plainName(label);
    const begun = own === "" ? `${what}_${at + 1}` : /^\d/.test(own) || taken.has(own) ? `${what}_${own}` : own;
    let name = begun;
    for (let more = 2; used.has(name); more += 1) name = `${begun}_${more}`;
    used.add(name);
    return name;
  });
}

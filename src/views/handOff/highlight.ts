/** What a piece of a line is, by which it is coloured. */
export type Tone = "plain" | "comment" | "number" | "word" | "name" | "text";

/** What a text is written in; tables are in none. */
export type Language = "c" | "python" | "none";

export interface Piece {
  readonly text: string;
  readonly tone: Tone;
}

const cWords =
  /^(?:typedef|struct|enum|static|const|void|bool|double|if|else|while|for|return|switch|case|default|continue|break|true|false|NULL|unsigned|u?int(?:8|16|32|64)_t)$/;
const pythonWords =
  /^(?:def|class|return|if|elif|else|while|for|in|and|or|not|is|None|True|False|self|import|from|pass|break|continue|range|len|min|max)$/;

/** Cuts a line of code into pieces. A comment that began on an earlier line is told by `isWithin`. */
export function pieces(line: string, language: Language, isWithin: boolean): readonly Piece[] {
  if (language === "none") return [{ text: line, tone: "plain" }];
  if (isWithin) return [{ text: line, tone: "comment" }];
  const found: Piece[] = [];
  const pattern =
    language === "c"
      ? /(\/\*.*?(?:\*\/|$)|\/\/.*$)|("(?:[^"\\]|\\.)*")|(-?\b\d[\w.]*)|([A-Za-z_]\w*)|(#\w+)/g
      : /(#.*$)|("""|"(?:[^"\\]|\\.)*"|'(?:[^'\\]|\\.)*')|(-?\b\d[\w.]*)|([A-Za-z_]\w*)/g;
  const words = language === "c" ? cWords : pythonWords;
  let at = 0;
  for (const match of line.matchAll(pattern)) {
    if (match.index > at) found.push({ text: line.slice(at, match.index), tone: "plain" });
    const [text, comment, quoted, number, name] = match;
    const tone: Tone = comment
      ? "comment"
      : quoted
        ? "text"
        : number
          ? "number"
          : name && !words.test(name)
            ? /^[A-Z][A-Z0-9_]+$/.test(name)
              ? "name"
              : "plain"
            : "word";
    found.push({ text, tone });
    at = match.index + text.length;
  }
  if (at < line.length) found.push({ text: line.slice(at), tone: "plain" });
  return found;
}

/** For each line, whether it lies within a comment of several lines. */
export function withinComments(lines: readonly string[], language: Language): readonly boolean[] {
  const [opens, closes] = language === "c" ? ["/*", "*/"] : ['"""', '"""'];
  let isWithin = false;
  return lines.map((line) => {
    const began = isWithin;
    if (isWithin) {
      if (line.includes(closes)) isWithin = false;
    } else {
      const from = line.lastIndexOf(opens);
      if (from >= 0 && !line.slice(from + opens.length).includes(closes) && line.split(opens).length % 2 === 0)
        isWithin = true;
    }
    return began;
  });
}

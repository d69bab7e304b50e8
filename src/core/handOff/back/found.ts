/** What stands in a text, under the names that `written` gives it. */
export type Found = Map<string, string>;

/** The values in C, under the names that `written` gives them. What has no name of its own is known by the order of the text's own joints: the choice may have changed since. */
export function inC(text: string): Found {
  const found: Found = new Map();
  const bare = text.replace(/\/\*[\s\S]*?\*\/|\/\/[^\n]*/g, " ");
  const joints: string[] = [];
  for (const [, name = "", body = ""] of bare.matchAll(/\[JOINT_(\w+)\]\s*=\s*\{([^{}]*)\}/g)) {
    // Other tables have rows for joints, too.
    if (!/\.\w+\s*=/.test(body)) continue;
    joints.push(name.toLowerCase());
    for (const [, field = "", value = ""] of body.matchAll(/\.(\w+)\s*=\s*([^,\n]+)/g))
      found.set(`joint/${name.toLowerCase()}/${field}`, value.trim());
  }
  for (const [, name = "", body = ""] of bare.matchAll(/\[POSE_(\w+)\]\s*=\s*\{([^{}]*)\}/g))
    poseRow(found, joints, name.toLowerCase(), body);
  for (const [, name = "", body = ""] of bare.matchAll(/\bStep (\w+)_steps\[\]\s*=\s*\{([\s\S]*?)\n\s*\};/g))
    stepRows(found, name, body, /\{([^{}]*)\}/g);
  for (const [, name = "", body = ""] of bare.matchAll(/\[ROUTINE_(\w+)\]\s*=\s*\{([^{}]*)\}/g))
    for (const [, field = "", value = ""] of body.matchAll(/\.(\w+)\s*=\s*([^,\n]+)/g))
      found.set(`routine/${name.toLowerCase()}/${field}`, value.trim().toLowerCase());
  for (const [, name = "", body = ""] of bare.matchAll(/\bKey (\w+)_keys\[\]\s*=\s*\{([\s\S]*?)\n\s*\};/g))
    keyRows(found, name, body, /\{([^{}]*)\}/g);
  return found;
}

/** The values in Python; its joints, poses and routines are called as the text's own constants number them. */
export function inPython(text: string): Found {
  const found: Found = new Map();
  const bare = text.replace(/#[^\n]*/g, " ");
  const listOf = (name: string) => new RegExp(`^${name} = \\[\\n([\\s\\S]*?)^\\]`, "m").exec(bare)?.[1] ?? "";
  const namesOf = (prefix: string) => {
    const names: string[] = [];
    for (const [, name = "", at = ""] of bare.matchAll(new RegExp(`^${prefix}_(\\w+) *= *(\\d{1,4})\\s*$`, "gm")))
      names[Number(at)] = name.toLowerCase();
    return names;
  };
  const joints = namesOf("JOINT");
  for (const [at, body] of listOf("joints").split("Joint(").slice(1).entries()) {
    const name = joints[at];
    if (name === undefined) continue;
    for (const [, field = "", value = ""] of body.matchAll(/(\w+)=([^,()\n]+|\([^()\n]*\))/g)) {
      const [low = "", high = ""] = value
        .replace(/[()]/g, "")
        .split(",")
        .map((one) => one.trim());
      if (field !== "window") found.set(`joint/${name}/${field}`, value.trim());
      else found.set(`joint/${name}/window_low`, low).set(`joint/${name}/window_high`, high);
    }
  }
  const poses = namesOf("POSE");
  for (const [at, [, body = ""]] of [...listOf("poses").matchAll(/\(([^()]*)\)/g)].entries())
    if (poses[at] !== undefined) poseRow(found, joints, poses[at], body);
  const routines = namesOf("ROUTINE");
  for (const [at, body] of listOf("routines")
    .split(/\bRoutine\(/)
    .slice(1)
    .entries())
    if (routines[at] !== undefined) routineIn(found, routines[at], body);
  return found;
}

function routineIn(found: Found, routine: string, body: string): void {
  stepRows(found, routine, body, /\(((?:MOVE|HOLD|WAIT)[^()]*)\)/g);
  for (const [, field = "", value = ""] of body.matchAll(/\b(rounds|goes_there_and_back|releases)=(\w+)/g))
    found.set(`routine/${routine}/${field}`, value.toLowerCase());
  for (const track of body.split("Track(JOINT_").slice(1)) {
    const joint = /^\w+/.exec(track)?.[0].toLowerCase() ?? "";
    keyRows(found, `${routine}__${joint}`, track, /\(([^()]*\b(?:LINE|SMOOTH|STAY))\)/g);
  }
}

/** Keys of one joint in one routine: their moments and targets, in their order. */
function keyRows(found: Found, name: string, body: string, pattern: RegExp): void {
  const rows = [...body.matchAll(pattern)];
  found.set(`keys/${name}`, String(rows.length));
  for (const [at, [, row = ""]] of rows.entries()) {
    const [ms = "", target = ""] = row.split(",").map((cell) => cell.trim());
    found.set(`key/${name}/${at}/ms`, ms).set(`key/${name}/${at}/target`, target);
  }
}

/** A pose's cells stand in the order of the joints of the same text; without those nobody knows whose they are. */
function poseRow(found: Found, joints: readonly string[], pose: string, body: string): void {
  const cells = body
    .replace(/,\s*$/, "")
    .split(",")
    .map((cell) => cell.trim());
  if (cells.length !== joints.length) return;
  for (const [at, joint] of joints.entries()) found.set(`pose/${pose}/${joint}`, cells[at] as string);
}

function stepRows(found: Found, routine: string, body: string, pattern: RegExp): void {
  const rows = [...body.matchAll(pattern)];
  found.set(`steps/${routine}`, String(rows.length));
  for (const [at, [, row = ""]] of rows.entries()) {
    const [kind, pose = "", moveMs = "", holdMs = "", staggerMs = "", easing = ""] = row
      .split(",")
      .map((cell) => cell.trim());
    const key = `step/${routine}/${at}`;
    found.set(`${key}/hold_ms`, holdMs);
    if (kind !== "MOVE") continue;
    found.set(`${key}/pose`, pose.replace(/^POSE_/, "").toLowerCase());
    found.set(`${key}/easing`, easing.toLowerCase());
    found.set(`${key}/move_ms`, moveMs).set(`${key}/stagger_ms`, staggerMs);
  }
}

import { mkdir, readFile, writeFile } from "node:fs/promises";
import { homedir, hostname } from "node:os";
import { join } from "node:path";
import { generate } from "selfsigned";

export interface Certificate {
  readonly cert: string;
  readonly key: string;
}

const folder = () => join(process.env.XDG_DATA_HOME || join(homedir(), ".local", "share"), "vantel");
const goodForDays = 800;

/**
 * The certificate for pads: the one that is named by CERT and KEY; else one made for this bench and these addresses, kept for the next time in the
 * person's own folder, where nobody else may read it. Its key never leaves this computer.
 */
export async function certificateFor(addresses: readonly string[]): Promise<Certificate> {
  const { CERT, KEY } = process.env;
  if (CERT && KEY) return { cert: await readFile(CERT, "utf8"), key: await readFile(KEY, "utf8") };
  const path = join(folder(), "pads.json");
  const kept = await readKept(path);
  if (kept && addresses.every((one) => kept.addresses.includes(one)) && kept.untilMs > Date.now()) return kept;
  const notAfterDate = new Date(Date.now() + goodForDays * 86_400_000);
  const made = await generate([{ name: "commonName", value: `Vantel on ${hostname()}` }], {
    keySize: 2048,
    algorithm: "sha256",
    notAfterDate,
    extensions: [
      { name: "basicConstraints", cA: false },
      { name: "subjectAltName", altNames: addresses.map((ip) => ({ type: 7 as const, ip })) },
    ],
  });
  const fresh = { cert: made.cert, key: made.private, addresses, untilMs: notAfterDate.getTime() };
  await mkdir(folder(), { recursive: true, mode: 0o700 });
  await writeFile(path, JSON.stringify(fresh), { mode: 0o600 });
  return fresh;
}

interface Kept extends Certificate {
  readonly addresses: readonly string[];
  readonly untilMs: number;
}

async function readKept(path: string): Promise<Kept | null> {
  try {
    const kept = JSON.parse(await readFile(path, "utf8")) as Partial<Kept>;
    const isWhole =
      typeof kept.cert === "string" &&
      typeof kept.key === "string" &&
      Array.isArray(kept.addresses) &&
      typeof kept.untilMs === "number";
    return isWhole ? (kept as Kept) : null;
  } catch {
    return null;
  }
}

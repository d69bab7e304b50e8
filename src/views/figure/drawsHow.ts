/** How this browser draws in three dimensions: with a graphics card, slowly without one, or not at all. */
export type DrawsHow = "quick" | "slow" | null;

/** What a graphics card paints in a small part of this time takes a processor longer, in ms. */
const slowFromMs = 10;
const sidePx = 256;
const layers = 20;
/** All of the canvas, thinly, so that no layer can be left out. */
const whole = `#version 300 es
void main() { gl_Position = vec4(gl_VertexID == 1 ? 3 : -1, gl_VertexID == 2 ? 3 : -1, 0, 1); }`;
const thin = `#version 300 es
precision mediump float;
out vec4 color;
void main() { color = vec4(fract(gl_FragCoord.xy / 32.0), 0.5, 0.02); }`;

let found: DrawsHow | undefined;

/**
 * Found once by drawing and looking at the clock: some browsers do not say that they draw without a graphics card. The address can ask for one way: `?lines`
 * draws in lines, `?fine` as with a card.
 */
export function drawsHow(): DrawsHow {
  const asked = new URLSearchParams(location.search);
  if (asked.has("lines")) return null;
  if (found === undefined) found = tried();
  return found && asked.has("fine") ? "quick" : found;
}

function tried(): DrawsHow {
  try {
    const canvas = Object.assign(document.createElement("canvas"), { width: sidePx, height: sidePx });
    const gl = canvas.getContext("webgl2", { antialias: true, powerPreference: "low-power" });
    if (!gl) return null;
    makeReady(gl);
    // The first go makes ready what the others find ready.
    const times = [0, 1, 2].map(() => paintMs(gl));
    gl.getExtension("WEBGL_lose_context")?.loseContext();
    return Math.min(...times) < slowFromMs ? "quick" : "slow";
  } catch {
    return null;
  }
}

function makeReady(gl: WebGL2RenderingContext): void {
  const program = gl.createProgram();
  for (const [kind, text] of [
    [gl.VERTEX_SHADER, whole],
    [gl.FRAGMENT_SHADER, thin],
  ] as const) {
    const shader = gl.createShader(kind);
    if (!shader) throw new Error("Nothing can be drawn here.");
    gl.shaderSource(shader, text);
    gl.compileShader(shader);
    gl.attachShader(program, shader);
  }
  gl.linkProgram(program);
  // biome-ignore lint/correctness/useHookAtTopLevel: it is no hook of React's.
  gl.useProgram(program);
  gl.enable(gl.BLEND);
  gl.blendFunc(gl.SRC_ALPHA, gl.ONE_MINUS_SRC_ALPHA);
}

/** How long it takes to paint layer upon layer, until a point of it can be read, in ms. */
function paintMs(gl: WebGL2RenderingContext): number {
  const startMs = performance.now();
  gl.drawArraysInstanced(gl.TRIANGLES, 0, 3, layers);
  gl.readPixels(0, 0, 1, 1, gl.RGBA, gl.UNSIGNED_BYTE, new Uint8Array(4));
  return performance.now() - startMs;
}

import { createSocket } from "node:dgram";
import { connect } from "mqtt";
import { encode, Message } from "node-osc";
import { padAt } from "../tests/remoteHost";

/**
 * A process of its own that crowds at the doors of a bench: `pads URL SECONDS COOKIE…` are so many pads with a thumb down; `flood URL SECONDS MQTT OSC COOKIE` says
 * ten thousand things in a second at each of three doors.
 */
const [what, url = "", seconds = "1", ...rest] = process.argv.slice(2);
const endMs = performance.now() + Number(seconds) * 1000;
const wait = (ms: number) => new Promise((done) => setTimeout(done, ms));
const stepMs = 10;

if (what === "pads") {
  const pads = await Promise.all(rest.map((cookie) => padAt(url, cookie)));
  for (let step = 0; performance.now() < endMs; step += 1) {
    for (const [at, pad] of pads.entries())
      pad.say(at === 0 ? "pad-turn" : `none-${at}`, 0.5 + 0.4 * Math.sin(step / 20));
    await wait(50);
  }
  process.exit(0);
}

const [mqttPort, oscPort, cookie = ""] = rest;
const client = connect(`mqtt://127.0.0.1:${mqttPort}`, { reconnectPeriod: 50 });
client.on("error", () => {});
const udp = createSocket("udp4");
const packet = encode(new Message("/a/b", 0.5));
let pad = await padAt(url, cookie);
const perStep = 10_000 / (1000 / stepMs);
let said = 0;
while (performance.now() < endMs) {
  const beganMs = performance.now();
  for (let at = 0; at < perStep; at += 1) {
    if (pad.socket.readyState === pad.socket.OPEN) pad.say("pad-turn", Math.random());
    client.publish("vantel/bench/in/knob", String(at));
    udp.send(packet, Number(oscPort), "127.0.0.1");
    said += 3;
  }
  // Thrown out of its socket, it knocks again at every step.
  if (pad.socket.readyState !== pad.socket.OPEN)
    void padAt(url, cookie).then(
      (again) => {
        pad = again;
      },
      () => {},
    );
  await wait(Math.max(1, stepMs - (performance.now() - beganMs)));
}
console.log(said);
process.exit(0);

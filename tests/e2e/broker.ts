import { type ChildProcess, spawn } from "node:child_process";
import { once } from "node:events";
import { connect as connectTcp } from "node:net";
import { connect, type MqttClient } from "mqtt";

const startWithinMs = 10_000;

/** Debian's broker on a port of this computer alone, kept nowhere. */
export async function startBroker(port: number): Promise<ChildProcess> {
  const broker = spawn("/usr/sbin/mosquitto", ["-p", String(port)], { stdio: "ignore" });
  for (const endMs = Date.now() + startWithinMs; Date.now() < endMs; ) {
    const isThere = await new Promise<boolean>((resolve) => {
      const socket = connectTcp(port, "127.0.0.1", () => resolve(true));
      socket.on("error", () => resolve(false));
      setTimeout(() => socket.destroy(), 500).unref();
    });
    if (isThere) return broker;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error("The broker did not come up.");
}

/** Gone as a pulled plug: it says nothing to anybody. */
export async function kill(broker: ChildProcess): Promise<void> {
  const isOver = once(broker, "exit");
  broker.kill("SIGKILL");
  await isOver;
}

/** Somebody else at a broker. */
export async function clientAt(port: number): Promise<MqttClient> {
  const client = connect(`mqtt://127.0.0.1:${port}`, { reconnectPeriod: 100 });
  client.on("error", () => {});
  await new Promise<void>((resolve) => {
    client.once("connect", () => resolve());
  });
  return client;
}

import { spawn } from "node:child_process";
import { rmSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");

// Starts the demo on a database of its own, as a person would; stops it when the tests are done.
export default async function start() {
  const state = path.join(root, ".keralith", "browser");
  rmSync(state, { recursive: true, force: true });
  const begun = Date.now();
  const app = spawn("dotnet", [path.join(root, "src/Keralith.Cli/bin/Release/net10.0/keralith.dll"), "demo"], {
    cwd: root,
    env: { ...process.env, KERALITH_STATE: state },
    stdio: ["ignore", "pipe", "pipe"],
  });
  let said = "";
  app.stderr.on("data", (data) => (said += data));
  const url = await new Promise((resolve, reject) => {
    app.stdout.on("data", (data) => {
      said += data;
      const match = /Keralith is at (http:\/\/\S+)/.exec(said);
      if (match) resolve(match[1]);
    });
    app.on("exit", (code) => reject(new Error(`the demo ended with ${code}: ${said}`)));
    setTimeout(() => reject(new Error(`the demo did not start: ${said}`)), 120_000);
  });
  process.env.KERALITH_URL = url;
  await fetch(`${url}/sign-in`); // the first page of a fresh program is the slowest
  console.log(`demo filled and started in ${((Date.now() - begun) / 1000).toFixed(1)} s`);
  return async () => {
    const gone = new Promise((resolve) => app.once("exit", resolve));
    app.removeAllListeners("exit");
    app.once("exit", () => {});
    app.kill("SIGTERM");
    await Promise.race([gone, new Promise((resolve) => setTimeout(resolve, 20_000))]);
  };
}

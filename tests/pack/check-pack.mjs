// Checks an auditor's pack with nothing but Node's own library. It knows nothing of the program that wrote it:
// node check-pack.mjs PACK.zip says what holds; exit code 1 where something does not.

import { createHash, createPublicKey, verify } from "node:crypto";
import { readFileSync } from "node:fs";
import { inflateRawSync } from "node:zlib";

const sha256 = (...parts) => parts.reduce((hash, part) => hash.update(part), createHash("sha256")).digest();

// The files of a zip archive, by its central directory.
function files(zip) {
  const end = zip.lastIndexOf(Buffer.from("PK\x05\x06", "latin1"));
  let at = zip.readUInt32LE(end + 16);
  const found = new Map();
  for (let left = zip.readUInt16LE(end + 10); left > 0; left--) {
    const [method, size, name, extra, note, local] = [zip.readUInt16LE(at + 10), zip.readUInt32LE(at + 20), zip.readUInt16LE(at + 28), zip.readUInt16LE(at + 30), zip.readUInt16LE(at + 32), zip.readUInt32LE(at + 42)];
    const from = local + 30 + zip.readUInt16LE(local + 26) + zip.readUInt16LE(local + 28);
    const bytes = zip.subarray(from, from + size);
    found.set(zip.toString("utf8", at + 46, at + 46 + name), method === 0 ? bytes : inflateRawSync(bytes));
    at += 46 + name + extra + note;
  }
  return found;
}

function root(leaves) {
  if (leaves.length === 0) return sha256(Buffer.alloc(0));
  if (leaves.length === 1) return leaves[0];
  let split = 1;
  while (split * 2 < leaves.length) split *= 2;
  return sha256(Buffer.from([1]), root(leaves.slice(0, split)), root(leaves.slice(split)));
}

const canonical = (flat) => `{${Object.keys(flat).sort().map((k) => `${JSON.stringify(k)}:${JSON.stringify(flat[k])}`).join(",")}}`;

const pack = files(readFileSync(process.argv[2]));
const text = (name) => pack.get(name).toString("utf8");
const lines = (name) => text(name).split("\n").filter(Boolean).map((line) => JSON.parse(line));
const hashes = text("hashes.txt").split("\n").filter(Boolean);
const faults = [];
const entries = lines("ledger.jsonl");
for (const e of entries) {
  const head = { actor: e.actor, at: e.at, kind: e.kind, number: e.number, subject: e.subject };
  if (e.form === 2) head.form = "rfc8785";
  if (sha256(Buffer.from(e.previous, "hex"), canonical(head), "\n", e.data).toString("hex") !== e.hash) faults.push(`entry ${e.number} is not as it was sealed`);
  if (hashes[e.number - 1] !== e.hash) faults.push(`entry ${e.number} does not stand in the ledger`);
  if ((e.number > 1 ? hashes[e.number - 2] : "0".repeat(64)) !== e.previous) faults.push(`entry ${e.number} does not follow the one before it`);
}
const head = JSON.parse(text("head.json"));
if (head.size !== hashes.length) faults.push("the head is of another count of entries");
if (root(hashes.map((h) => sha256(Buffer.from([0]), Buffer.from(h, "hex")))).toString("hex") !== head.root) faults.push("the root is not the ledger's");
const { signature, ...unsigned } = head;
if (canonical(unsigned) !== text("head.signed")) faults.push("what is signed is not the head");
if (signature !== pack.get("head.sig").toString("base64")) faults.push("the signature beside the head is another");
if (!verify("sha256", pack.get("head.signed"), createPublicKey(text("key.pem")), pack.get("head.sig"))) faults.push("the signature is not the key's");
const sealed = new Set(entries.filter((e) => e.kind === "inspection.signed").map((e) => JSON.parse(e.data).inspection));
for (const i of lines("inspections.jsonl")) if (!sealed.has(i.inspection)) faults.push(`inspection ${i.inspection} stands in no entry`);
console.log(faults.length > 0 ? faults.join("\n") : `holds: ${entries.length} of ${hashes.length} entries, ${sealed.size} inspections`);
process.exitCode = faults.length > 0 ? 1 : 0;

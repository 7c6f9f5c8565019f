// Writes the licences of all libraries in the built scripts and styles beside them, so that they go wherever these go.
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";

const OUT = "../gladstack/web_dist/NOTICES.txt";
const lock = JSON.parse(readFileSync("package-lock.json", "utf8"));

/** @param {string} folder */
function licence(folder) {
  const file = readdirSync(folder).find((name) => /^(licen[cs]e|copying|ofl)(\.|-|$)/i.test(name));
  return file ? readFileSync(`${folder}/${file}`, "utf8").trim() : "";
}

const parts = Object.entries(lock.packages)
  .filter(([folder, { dev, optional }]) => folder && !dev && !(optional && !existsSync(folder)) && existsSync(folder))
  .map(([folder, { version, license }]) => {
    const name = folder.replace(/^.*node_modules\//, "");
    return `${name} ${version} (${license ?? "see below"})\n\n${licence(folder)}`;
  });
const head = "Glad Stack's screens are built with these libraries; each is under its own licence.\n";
writeFileSync(OUT, [head, ...parts].join(`\n${"-".repeat(80)}\n\n`));

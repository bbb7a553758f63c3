// Prints, for each glTF or GLB file named, a line of JSON: its path and the errors the validator reports.
import { readFile } from "node:fs/promises";
import { dirname, join } from "node:path";
import { validateBytes } from "gltf-validator";

for (const path of process.argv.slice(2)) {
  const report = await validateBytes(new Uint8Array(await readFile(path)), {
    maxIssues: 0,
    externalResourceFunction: async (uri) => new Uint8Array(await readFile(join(dirname(path), decodeURIComponent(uri)))),
  });
  const errors = report.issues.messages.filter((m) => m.severity === 0);
  console.log(JSON.stringify({ path, errors: errors.map((m) => [m.code, m.pointer ?? "", m.message]) }));
}

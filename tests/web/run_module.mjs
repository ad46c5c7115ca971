// Runs functions of TypeScript modules without imports. One request a line of standard input:
// {module, name, calls, fold}; one line of answers for each. With "fold" each call is a state and
// events, and each state is handed to the next event.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";
import { createInterface } from "node:readline";

const ts = createRequire(`${process.argv[2]}/package.json`)("typescript");
const compilerOptions = { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 };
const modules = new Map();

async function loaded(path) {
  if (!modules.has(path)) {
    const { outputText } = ts.transpileModule(readFileSync(path, "utf8"), { compilerOptions });
    const encoded = Buffer.from(outputText).toString("base64");
    modules.set(path, await import(`data:text/javascript;base64,${encoded}`));
  }
  return modules.get(path);
}

async function answer({ module, name, calls, fold }) {
  const run = (await loaded(module))[name];
  return fold
    ? calls.map(([state, events]) => events.reduce(run, state))
    : calls.map((each) => run(...each));
}

for await (const line of createInterface({ input: process.stdin })) {
  let said;
  try {
    said = { answers: await answer(JSON.parse(line)) };
  } catch (error) {
    said = { error: String(error?.stack ?? error) };
  }
  process.stdout.write(`${JSON.stringify(said)}\n`);
}

// Runs a function of a TypeScript module on arguments from standard input: one JSON answer for each.
// With "fold" the arguments are a state and events, and each state is handed to the next event.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";

const [modulePath, name, webFolder, fold] = process.argv.slice(2);
const ts = createRequire(`${webFolder}/package.json`)("typescript");
const compilerOptions = { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 };
const { outputText } = ts.transpileModule(readFileSync(modulePath, "utf8"), { compilerOptions });
const loaded = await import(`data:text/javascript;base64,${Buffer.from(outputText).toString("base64")}`);
const given = JSON.parse(readFileSync(0, "utf8"));
const answers = fold
  ? given.map(([state, events]) => events.reduce(loaded[name], state))
  : given.map((each) => loaded[name](...each));
process.stdout.write(JSON.stringify(answers));

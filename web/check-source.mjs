// Types by TypeScript and lint by ESLint, from one reading of the source: lint asks for types as
// well, and working them out takes most of either's time.
import { ESLint } from "eslint";
import ts from "typescript";

const read = ts.readConfigFile("tsconfig.json", ts.sys.readFile);
const { fileNames, options } = ts.parseJsonConfigFileContent(read.config, ts.sys, ".");
const program = ts.createProgram(fileNames, options);
const faults = ts.getPreEmitDiagnostics(program);
const names = { getCurrentDirectory: ts.sys.getCurrentDirectory, getNewLine: () => "\n" };
console.log(ts.formatDiagnostics(faults, { ...names, getCanonicalFileName: (name) => name }));

const parserOptions = { projectService: false, programs: [program] };
const eslint = new ESLint({ overrideConfig: { languageOptions: { parserOptions } } });
const results = await eslint.lintFiles(["src", "vite.config.ts"]);
const formatter = await eslint.loadFormatter("stylish");
console.log(await formatter.format(results));

const lint = results.reduce((all, one) => all + one.errorCount + one.warningCount, 0);
process.exitCode = read.error || faults.length + lint > 0 ? 1 : 0;

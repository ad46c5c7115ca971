// Every string of the front end that a person reads, as JSON: file, line, kind and text.
import { createRequire } from "node:module";
import { readFileSync } from "node:fs";

const [webFolder, ...files] = process.argv.slice(2);
const ts = createRequire(`${webFolder}/package.json`)("typescript");

const READ_OUT = new Set(["aria-label", "alt", "title", "placeholder", "label", "legend", "hint"]);
const NAMED = new Set(["text", "label", "title", "name", "words", "hint", "legend", "detail", "empty", "why", "does", "settings", "stated"]);
const UNSEEN = new Set(["className", "id", "type", "key", "d", "viewBox", "href", "role", "transform", "autoComplete", "fill", "stroke", "strokeDasharray", "look", "points", "accept", "pattern", "inputMode", "name", "value", "topic", "rel", "target", "htmlFor"]);

const found = [];

function asText(node) {
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text;
  const parts = [node.head.text];
  for (const span of node.templateSpans) parts.push("{}", span.literal.text);
  return parts.join("");
}

function isWords(text) {
  return /[A-Za-z]{2}/.test(text) && /[A-Za-z{}]\S* +\S*[A-Za-z{}]/.test(text.trim());
}

/** Classes of the style sheet, which nobody reads. */
function isStyle(text) {
  return /(^|\s|:|\[)(min-h|px|py|grid|border|rounded|text|bg|flex|gap|hover|max-w|h|w|inset|absolute|touch|top|left)(-|:|\s)/.test(text);
}

function isSentenceOrName(text) {
  return isWords(text) || /^[A-Z][a-z]+[.:]?$/.test(text.trim());
}

function elementOf(node) {
  for (let up = node.parent; up; up = up.parent) {
    if (ts.isJsxElement(up)) return up.openingElement.tagName.getText();
    if (ts.isJsxSelfClosingElement(up)) return up.tagName.getText();
  }
  return "";
}

function kindOf(node) {
  const tag = elementOf(node);
  if (/Button|Trigger/.test(tag) || tag === "button") return "button";
  if (/^h[1-6]$|Title/.test(tag)) return "heading";
  if (/^(label|legend|dt|th)$|Field/.test(tag)) return "label";
  if (/Link|^a$/.test(tag)) return "link";
  return "text";
}

/** What a string is for, or null where nobody reads it. */
function use(node, text) {
  const up = node.parent;
  if (ts.isImportDeclaration(up) || ts.isExportDeclaration(up) || ts.isLiteralTypeNode(up)) return null;
  if (ts.isJsxAttribute(up)) {
    const name = up.name.getText();
    if (READ_OUT.has(name)) return name === "aria-label" || name === "alt" ? "read aloud" : name === "title" ? "heading" : "label";
    return UNSEEN.has(name) || /^data-|^on/.test(name) ? null : isWords(text) ? "text" : null;
  }
  for (let at = node.parent; at && !ts.isBlock(at); at = at.parent) {
    if (ts.isJsxAttribute(at)) {
      const name = at.name.getText();
      if (READ_OUT.has(name)) return isSentenceOrName(text) ? (name === "aria-label" || name === "alt" ? "read aloud" : "label") : null;
      if (UNSEEN.has(name) || /^data-/.test(name)) return null;
      break;
    }
    if (ts.isCallExpression(at)) {
      const name = at.expression.getText();
      if (name === "say") return "notice";
      if (/matchMedia|querySelector|addEventListener|searchParams|\.get$|\.set$|\.has$|ask$|split|join|includes/.test(name)) return null;
      if (/^edit$/.test(name)) return isSentenceOrName(text) || /^[a-z]+( [a-z]+)*$/.test(text) ? "undo" : null;
    }
    if (ts.isPropertyAssignment(at)) {
      const name = at.name.getText().replaceAll('"', "");
      if (NAMED.has(name)) return isSentenceOrName(text) ? "label" : null;
      if (UNSEEN.has(name)) return null;
      break;
    }
    if (ts.isJsxExpression(at)) return isSentenceOrName(text) ? kindOf(node) : null;
    if (ts.isNewExpression(at) && /Error|Refusal/.test(at.expression.getText())) return "error";
  }
  return isWords(text) && !/[<>=;]|^\.|px|rem|var\(|--|^M\d|grid-|flex|text-/.test(text) ? "text" : null;
}

for (const path of files) {
  const source = ts.createSourceFile(path, readFileSync(path, "utf8"), ts.ScriptTarget.ES2022, true, path.endsWith(".tsx") ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const note = (node, kind, text) => {
    const { line } = source.getLineAndCharacterOfPosition(node.getStart());
    const words = text.replace(/\s+/g, " ").trim();
    // A whole sentence is no label.
    const isSentence = kind === "label" && words.endsWith(".");
    found.push({ file: path, line: line + 1, kind: isSentence ? "text" : kind, text: words });
  };
  const visit = (node) => {
    if (ts.isJsxText(node)) {
      if (/[A-Za-z]{2}/.test(node.text)) note(node, kindOf(node), node.text);
    } else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node) || ts.isTemplateExpression(node)) {
      const text = asText(node);
      const kind = use(node, text);
      if (kind && /[A-Za-z]{2}/.test(text) && !isStyle(text)) note(node, kind, text);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
}
process.stdout.write(JSON.stringify(found));

"""Every call of the front end asks for what the API has, and takes the answer for what it is."""

import json
import re
import unittest
from pathlib import Path
from typing import Any

WEB = Path(__file__).parents[2] / "web" / "src"
CALL = re.compile(
    r"\bask<(?P<kind>(?:[^<>]|<[^<>]*>)+)>\(\s*(?P<path>\"[^\"]*\"|`[^`]*`)(?P<rest>[^;]{0,160})"
)
ALIAS = re.compile(r"export type (\w+) = Schemas\[\"(\w+)\"\];")
METHOD = re.compile(r"^,\s*\{[^{}]*?\bmethod:\s*(?P<method>[^,}]+)")
LEAST_CALLS = 110


def calls():
    """Every call: its place, its type, its path with {} for what is filled in, its method."""
    for path in sorted(WEB.rglob("*.ts*")):
        for found in CALL.finditer(path.read_text("utf-8")):
            asked = re.sub(r"\$\{(?:[^{}]|\{[^{}]*\})*\}", "{}", found["path"][1:-1])
            # What is filled in behind a name, and not after a slash, is a query.
            asked = re.split(r"\?|\$\{|(?<!/)\{", asked)[0]
            method = METHOD.match(found["rest"])
            word = method["method"].strip().strip('"').lower() if method else "get"
            yield path.name, found["kind"].strip(), f"/api{asked}", word


def schema_of(operation):
    """The name of what an operation answers with, [] for a list of it; None for anything else."""
    for status in ("200", "201", "202"):
        content = operation["responses"].get(status, {}).get("content", {})
        schema = content.get("application/json", {}).get("schema")
        if schema is not None:
            many = "[]" if schema.get("type") == "array" else ""
            ref = (schema["items"] if many else schema).get("$ref")
            return ref and f"{ref.rsplit('/', 1)[1]}{many}"
    return None


class Calls(unittest.TestCase):
    paths: dict[str, Any]
    names: dict[str, str]

    @classmethod
    def setUpClass(cls):
        described = json.loads((WEB / "api" / "openapi.json").read_text("utf-8"))
        cls.paths = {
            re.sub(r"\{[^}]*\}", "{}", path): operations
            for path, operations in described["paths"].items()
        }
        aliases = dict(ALIAS.findall((WEB / "api" / "client.ts").read_text("utf-8")))
        cls.names = {
            alias: re.sub(r"-(Input|Output)$", "", name) for alias, name in aliases.items()
        }

    def operations(self, path, method):
        """The operations a path may be: several, where a part of its name is filled in."""
        exact = self.paths.get(path, {}).get(method)
        if exact is not None:
            return [exact]
        pattern = re.compile(re.escape(path).replace(r"\{\}", "[^/]+"))
        fitting = [each for name, each in self.paths.items() if pattern.fullmatch(name)]
        return [each[method] for each in fitting if method in each]

    def test_every_call_is_answered_by_what_it_takes_the_answer_for(self):
        found = list(calls())
        self.assertGreaterEqual(len(found), LEAST_CALLS)
        for file, kind, path, method in found:
            # A method chosen as it runs, or a path begun elsewhere, is for the browser's tests.
            if not method.isalpha() or not path.startswith("/api/"):
                continue
            with self.subTest(f"{file}: {method} {path}"):
                operations = self.operations(path, method)
                self.assertNotEqual(operations, [], "no such operation")
                wanted = {schema_of(operation) for operation in operations}
                name = kind.removesuffix("[]")
                if None not in wanted and name in self.names:
                    many = "[]" if kind.endswith("[]") else ""
                    self.assertIn(f"{self.names[name]}{many}", wanted)


if __name__ == "__main__":
    unittest.main()

"""Numbers of rows that no row can have: refused by name wherever they are taken, never a fault."""

from tests.server.test_api import WithApp

HUGE = int("9" * 400)


class Ids(WithApp):
    async def test_a_number_larger_than_any_row_is_refused(self):
        for number in (2**53 + 1, 2**63, HUGE):
            bodies = {
                "/api/inbox/place": {"places": [[number, 1]]},
                "/api/stacks": {"name": "Sluice", "sheet_id": number},
                "/api/takes": {"ids": [number], "change": {"rating": 1}},
            }
            for path, body in bodies.items():
                method = "PATCH" if path == "/api/takes" else "POST"
                with self.subTest(path, number=len(str(number))):
                    answer = await self.http.request(method, path, json=body)
                    self.assertEqual(answer.status_code, 422, answer.text)
            for path in (
                f"/api/sheets/{number}",
                f"/api/takes?ids={number}",
                f"/api/stacks/{number}",
            ):
                with self.subTest(path[:20]):
                    self.assertIn((await self.http.get(path)).status_code, (404, 405, 422))

    async def test_every_number_of_a_row_that_a_body_takes_is_bounded(self):
        schema = (await self.http.get("/api/openapi.json")).json()
        asked = {
            schema_part["$ref"].rsplit("/", 1)[1]
            for operations in schema["paths"].values()
            for operation in operations.values()
            for content in operation.get("requestBody", {}).get("content", {}).values()
            for schema_part in [content.get("schema", {})]
            if "$ref" in schema_part
        }
        for name in sorted(asked):
            for field, stated in (
                schema["components"]["schemas"][name].get("properties", {}).items()
            ):
                if field in ("id", "ids", "takes", "sheets", "places") or field.endswith("_id"):
                    for number in integers(stated):
                        with self.subTest(f"{name}.{field}"):
                            self.assertLessEqual(number.get("maximum", HUGE), 2**53)


def integers(schema):
    """Every schema of a whole number within one."""
    if schema.get("type") == "integer":
        yield schema
    for key in ("items", "anyOf", "prefixItems", "allOf"):
        inner = schema.get(key, [])
        for schema_part in inner if isinstance(inner, list) else [inner]:
            yield from integers(schema_part)

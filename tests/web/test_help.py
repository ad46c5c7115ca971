"""Every page has its help: what it is for, three tasks, and a page of the guide that ships."""

import re
import unittest

from tests.web.modules import ROOT, called

ROUTE = re.compile(r'<Route path="([^"]+)"')


class Help(unittest.TestCase):
    def helps(self):
        app = (ROOT / "web" / "src" / "app" / "App.tsx").read_text("utf-8")
        paths = [path.replace(":id", "12") for path in ROUTE.findall(app) if path != "/pair"]
        self.assertGreater(len(paths), 15)
        helps = called("shell/helpPages.ts", "helpOf", [[path] for path in paths])
        return dict(zip(paths, helps, strict=True))

    def test_no_page_but_the_first_falls_back_on_the_help_of_the_first(self):
        helps = self.helps()
        self.assertEqual([path for path in helps if helps[path]["name"] == "Outings"], ["/"])
        self.assertEqual(helps["/sheets/12/run"]["name"], "Checklist")
        self.assertEqual(helps["/kit/new"]["name"], "Add a phone")

    def test_each_has_a_sentence_or_two_three_tasks_and_a_page_of_the_guide(self):
        for path, page in self.helps().items():
            with self.subTest(path):
                self.assertLess(len(page["what"]), 120)
                self.assertEqual(len(page["tasks"]), 3)
                self.assertTrue((ROOT / "docs" / "guide" / f"{page['guide']}.md").is_file())


if __name__ == "__main__":
    unittest.main()

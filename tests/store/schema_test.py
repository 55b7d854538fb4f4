"""The file format, three ways that must agree: the schema, the program, and docs/format.md.

Usage: schema_test.py SOURCE_DIR GABARIT_CLI
"""
import copy
import json
import os
import pathlib
import re
import subprocess
import sys
import tempfile
import unittest

import jsonschema

SOURCE = pathlib.Path(sys.argv[1])
CLI = sys.argv[2]
PROJECT = json.loads((SOURCE / "data/schema/gabarit-project.schema.json").read_text())
DONOR = json.loads((SOURCE / "data/schema/gabarit-donor.schema.json").read_text())
DEMO = json.loads((SOURCE / "data/demo/harrow-tarn.gabarit").read_text())


def named(node):
    """All member names that a schema knows."""
    if isinstance(node, dict):
        for name, below in node.items():
            if name == "properties":
                yield from below
            yield from named(below)
    elif isinstance(node, list):
        for below in node:
            yield from named(below)


class Schema(unittest.TestCase):
    def setUp(self):
        self.folder = tempfile.TemporaryDirectory()
        self.path = os.path.join(self.folder.name, "p.gabarit")

    def tearDown(self):
        self.folder.cleanup()

    def read(self, project):
        """Exit status and complaint of the program for a project."""
        pathlib.Path(self.path).write_text(json.dumps(project))
        out = os.path.join(self.folder.name, "out.gabarit")
        done = subprocess.run([CLI, "tidy", self.path, "--out", out], capture_output=True, text=True)
        return done.returncode, done.stderr

    def test_schemas_are_sound(self):
        for schema in (PROJECT, DONOR):
            jsonschema.Draft202012Validator.check_schema(schema)

    def test_demo_is_valid(self):
        jsonschema.validate(DEMO, PROJECT)

    def test_what_the_program_writes_is_valid(self):
        donor = os.path.join(self.folder.name, "six.gabarit-donor")
        demo = str(SOURCE / "data/demo/harrow-tarn.gabarit")
        subprocess.run([CLI, "export", demo, "--donor", "ostrel-six", "--out", donor], check=True)
        jsonschema.validate(json.loads(pathlib.Path(donor).read_text()), DONOR)
        subprocess.run([CLI, "import", demo, "--donor", donor, "--out", self.path], check=True)
        hung = json.loads(pathlib.Path(self.path).read_text())
        jsonschema.validate(hung, PROJECT)
        self.assertEqual(2, len(hung["donors"]))

    def test_the_program_and_the_schema_refuse_the_same(self):
        def put(path, value):
            project = copy.deepcopy(DEMO)
            at = project
            for step in path[:-1]:
                at = at[step]
            at[path[-1]] = value
            return project

        body = ["vehicle", "bodies", 0]
        for wrong in (
            put(["version"], "1"),
            put(["format"], "something-else"),
            put(body + ["category"], "spaceship"),
            put(body + ["accuracy_mm"], -1),
            put(body + ["mass_kg"], "heavy"),
            put(body + ["may"], ["explode"]),
            put(body + ["shape"], {"kind": "cone"}),
            put(body + ["shape"], {"kind": "sphere", "diameter_mm": 0}),
            put(body + ["shape"], {"kind": "box", "size_mm": [1, 2]}),
            put(body + ["position_mm"], [0, 0, 2e6]),
            put(body + ["id"], ""),
            put(["joined", 0, "a"], "no-owner"),
            put(["joined", 0, "reason"], ""),
            put(["placements", 0, "pivot"], "elbow"),
            put(["vehicle", "drive_side"], "middle"),
            put(["parts", 0, "state"], "lost"),
            put(["weights", "bare", "front_kg"], -5),
        ):
            with self.assertRaises(jsonschema.ValidationError):
                jsonschema.validate(wrong, PROJECT)
            status, complaint = self.read(wrong)
            self.assertEqual(2, status, complaint)
            self.assertIn(self.path, complaint)
            self.assertEqual(1, complaint.count("\n"), complaint)

    def test_unknown_members_are_allowed_and_kept(self):
        project = copy.deepcopy(DEMO)
        project["later"] = {"x": [1, 2]}
        project["vehicle"]["bodies"][0]["shape"]["section"]["grade"] = "S235"
        jsonschema.validate(project, PROJECT)
        status, complaint = self.read(project)
        self.assertEqual(0, status, complaint)
        out = json.loads(pathlib.Path(self.folder.name, "out.gabarit").read_text())
        self.assertEqual(project, out)

    def test_schemas_and_docs_are_what_the_program_describes(self):
        def said(*arguments):
            return subprocess.run([CLI, "schema", *arguments], capture_output=True, text=True, check=True).stdout

        pages = [SOURCE / "docs/format.md", *sorted((SOURCE / "docs/disciplines").glob("*.md"))]
        for path, arguments in (
            ("data/schema/gabarit-project.schema.json", []),
            ("data/schema/gabarit-donor.schema.json", ["--donor"]),
            *((page.relative_to(SOURCE), ["--page", str(page)]) for page in pages),
        ):
            self.assertEqual((SOURCE / path).read_text(), said(*arguments), f"{path}: run scripts/describe")
        docs = "".join(page.read_text() for page in pages)
        self.assertNotIn("There is no structure", docs)
        tables = set(re.findall(r"<!-- members: (\w+) -->", docs))
        self.assertEqual(set(PROJECT["$defs"]) | {"project"}, tables)
        links = set(re.findall(r"\]\((?:\.\./format\.md)?#(\w+)\)", docs)) | set(re.findall(r"\]\(disciplines/(\w+)\.md\)", docs))
        self.assertEqual(set(), tables - {"project"} - links)
        members = set(named(PROJECT))
        self.assertGreater(len(members), 300)
        self.assertEqual([], sorted(m for m in members if f"`{m}`" not in docs))
        categories = {c["id"] for c in json.loads((SOURCE / "data/rules/clearance.json").read_text())["categories"]}
        self.assertEqual(categories, set(PROJECT["$defs"]["body"]["properties"]["category"]["enum"]))
        self.assertEqual([], sorted(c for c in categories if f"`{c}`" not in docs))


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1])

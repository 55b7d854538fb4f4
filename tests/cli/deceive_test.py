"""Files made to have it say go when it should not: tests/deceive/*.json are changes to a demo that says go, each with
what must be said then. Usage: deceive_test.py SOURCE_DIR GABARIT_CLI"""
import copy
import json
import pathlib
import subprocess
import sys
import tempfile
import unittest

SOURCE, CLI = pathlib.Path(sys.argv[1]), sys.argv[2]
CASES = sorted((SOURCE / "tests/deceive").glob("*.json"))


def places(value, path):
    """Where a path leads: (owner, key) pairs. A part is a member, an index, * for all, or member=value of list items."""
    part, rest = path[0], path[1:]
    if isinstance(value, list):
        if part == "*":
            keys = range(len(value))
        elif "=" in part:
            member, wanted = part.split("=")
            keys = [i for i, item in enumerate(value) if item.get(member) == wanted]
        else:
            keys = [int(part)]
    else:
        keys = [part]
    for key in keys:
        if not rest:
            yield value, key
        else:
            yield from places(value.setdefault(key, {}) if isinstance(value, dict) else value[key], rest)


def changed(project, change):
    """The text of the project with the changes worked in."""
    twice = ""
    for op, *what in change:
        if op == "set":
            found = list(places(project, what[0].split("/")))
            assert found, what[0]
            for owner, key in found:
                owner[key] = what[1]
        elif op == "drop":
            for owner, key in list(places(project, what[0].split("/"))):
                owner.pop(key, None)
        elif op == "add":
            for owner, key in places(project, what[0].split("/")):
                owner.setdefault(key, []).append(what[1])
        elif op == "rename":
            project[what[1]] = project.pop(what[0])
        elif op == "newer":
            project["version"] += 1
        elif op == "twice":
            twice = f', "{what[0]}": {json.dumps(project[what[0]])}'
        else:
            raise ValueError(op)
    return json.dumps(project)[:-1] + twice + "}"


class Deceive(unittest.TestCase):
    def check(self, text, placement, form="--json"):
        with tempfile.NamedTemporaryFile("w", suffix=".gabarit", encoding="utf-8") as file:
            file.write(text)
            file.flush()
            command = [CLI, "check", file.name] + ([form] if form else []) + (["--placement", placement] if placement else [])
            return subprocess.run(command, capture_output=True, text=True)

    def test_the_demos_say_go_unchanged(self):
        for name, placement in {(c["of"], c["placement"]) for c in (json.loads(p.read_text()) for p in CASES)}:
            ended = self.check((SOURCE / "data/demo" / name).read_text(), placement)
            self.assertEqual(0, ended.returncode, ended.stderr)
            self.assertEqual("go", json.loads(ended.stdout)["verdict"])

    def test_each_case(self):
        self.assertGreater(len(CASES), 25)
        for path in CASES:
            case = json.loads(path.read_text())
            with self.subTest(path.stem, why=case["why"]):
                project = json.loads((SOURCE / "data/demo" / case["of"]).read_text())
                if not any(op[1:2] == ["placements"] for op in case["change"]):
                    placement = case["placement"]
                else:
                    placement = ""
                text = changed(copy.deepcopy(project), case["change"])
                ended = self.check(text, placement)
                self.assertEqual(case["exit"], ended.returncode, ended.stdout[-500:] + ended.stderr)
                if case["verdict"] is not None:
                    report = json.loads(ended.stdout)
                    self.assertEqual(case["verdict"], report["verdict"])
                    listed = [f["verdict"] for f in report["findings"] if f["holds_up"] == "verdict"]
                    if case["verdict"] != "go":
                        self.assertIn(case["verdict"], listed, "the total stands among what is listed")
                    else:
                        self.assertEqual([], listed)
                if "says" in case:
                    plain = self.check(text, placement, form="")
                    self.assertIn(case["says"], plain.stdout + plain.stderr)


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1])

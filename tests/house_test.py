"""The house rules that a script can see. Usage: house_test.py SOURCE_DIR"""
import difflib
import json
import os
import pathlib
import re
import shutil
import subprocess
import sys
import tempfile
import unittest

SOURCE = pathlib.Path(sys.argv[1])
CODE = [p for room in ("core", "print", "app", "cli", "bench", "tests") for p in (SOURCE / room).rglob("*") if p.suffix in (".h", ".cpp")]


def uses(room):
    """What a core room's CMake target may include."""
    text = (SOURCE / "core" / room / "CMakeLists.txt").read_text()
    found = re.search(r"USES ([a-z/ ]+)", text)
    return (set(found.group(1).split()) if found else set()) | ({"model"} if "gabarit_section(" in text else set())


class House(unittest.TestCase):
    rooms = sorted(str(p.parent.relative_to(SOURCE / "core")) for p in (SOURCE / "core").glob("*/**/CMakeLists.txt"))

    def reach(self, room):
        below = {room}
        for used in uses(room):
            below |= self.reach(used)
        return below

    def test_rooms_stay_behind_their_fences(self):
        disciplines = {room for room in self.rooms if "gabarit_discipline(" in (SOURCE / "core" / room / "CMakeLists.txt").read_text()}
        self.assertGreaterEqual(len(disciplines), 8)
        for room in self.rooms:
            allowed = self.reach(room)
            if room in disciplines:
                self.assertEqual({room}, allowed & disciplines, "disciplines do not include each other")
            for path in (SOURCE / "core" / room).iterdir():
                if path.suffix not in (".h", ".cpp"):
                    continue
                text = path.read_text()
                self.assertIsNone(re.search(r'#include [<"]Q[A-Z]', text), f"{path} includes Qt")
                for named in re.findall(r'#include "([\w/]+)/', text):
                    self.assertIn(named, allowed, f"{path} includes {named}")

    def test_the_window_names_no_stage(self):
        stages = {p.parent.name for p in (SOURCE / "app/stages").glob("*/CMakeLists.txt")}
        self.assertGreaterEqual(len(stages), 8)
        for path in CODE:
            relative = path.relative_to(SOURCE)
            if relative.parts[0] != "app":
                continue
            own = relative.parts[2] if relative.parts[1] == "stages" else None
            for named in re.findall(r'#include "stages/(\w+)/', path.read_text()):
                self.assertEqual(own, named, f"{path} includes the stage {named}")
            if relative.parts[1] == "window":
                for quoted in re.findall(r'"(\w+)"', path.read_text()):
                    self.assertNotIn(quoted, stages, f"{path} names a stage")

    def test_a_discipline_is_its_own_folder(self):
        """Planted into a copy of the tree, the recipe's discipline adds its own files and at most five lines elsewhere."""
        with tempfile.TemporaryDirectory() as folder:
            tree = pathlib.Path(folder)
            for name in ("core", "app", "tests", "data", "docs"):
                shutil.copytree(SOURCE / name, tree / name, ignore=shutil.ignore_patterns("*.png"))
            shutil.copy(SOURCE / "README.md", tree)
            before = {p.relative_to(tree): p.read_bytes() for p in tree.rglob("*") if p.is_file()}
            subprocess.run([SOURCE / "scripts/plant-recipe", folder], check=True)
            lines = []
            for path in (p for p in tree.rglob("*") if p.is_file()):
                relative = path.relative_to(tree)
                if relative not in before:
                    self.assertIn("clutch", str(relative), "a file of its own stands in a folder of its own")
                elif before[relative] != path.read_bytes():
                    changes = difflib.ndiff(before[relative].decode().splitlines(), path.read_text().splitlines())
                    changed = [line for line in changes if line[0] in "+-"]
                    self.assertTrue(changed and all(line[0] == "+" for line in changed), changed)
                    lines += changed
            self.assertTrue(3 <= len(lines) <= 5, lines)
            # Nothing else of the tree speaks of it.
            for path in (p for p in tree.rglob("*") if p.suffix in (".h", ".cpp", ".txt") and "clutch" not in str(p.relative_to(tree)) and "recipe" not in str(p.relative_to(tree))):
                spoken = [line for line in path.read_text().splitlines() if re.search(r"clutch/|clutch::|stages_clutch", line)]
                self.assertEqual([], [line for line in spoken if "recipe" not in line and f"+ {line}" not in lines], str(path))

    def test_sections_see_the_model_alone(self):
        sections = [room for room in self.rooms if "gabarit_section(" in (SOURCE / "core" / room / "CMakeLists.txt").read_text()]
        self.assertGreaterEqual(len(sections), 7)
        for section in sections:
            self.assertEqual({section, "model", "describe", "quantity"}, self.reach(section))

    def test_what_runs_disciplines_names_none(self):
        for room in ("placed", "discipline", "disciplines", "study"):
            disciplines = {"fit", "survey", "driveline", "gearing", "mounts", "relief", "weights", "ledger"}
            self.assertFalse(self.reach(room) & disciplines, room)
            # What is cut out of a body is its shape; no other section is known to those.
            self.assertEqual({"relief/section"}, {reached for reached in self.reach(room) if "/section" in reached}, room)

    def test_libraries_stay_in_their_rooms(self):
        doors = {"fcl/": "proximity", "BRep": "shape", "polyclipping/": "shape", "nlohmann/": "store", "nlopt": "fit"}
        for path in CODE:
            relative = path.relative_to(SOURCE)
            if relative.parts[0] != "core":
                continue
            for header in re.findall(r"#include <([^>]+)>", path.read_text()):
                for start, room in doors.items():
                    # Disciplines write their reports with what core/discipline gives them.
                    if header.startswith(start) and not (start == "nlohmann/" and relative.parts[1] == "discipline"):
                        self.assertEqual(room, relative.parts[1], f"{path} includes {header}")

    def test_decompositions_are_compiled_once(self):
        """Each costs up to ten seconds wherever it is named."""
        for path in CODE:
            if path.parts[-2] == "linear" or "tests" in path.parts:
                continue
            for header in re.findall(r"#include <Eigen/(\w+)>", path.read_text()):
                self.assertIn(header, ("Core", "Geometry"), str(path))

    def test_headers_say_what_they_are_for(self):
        for path in CODE:
            if path.suffix == ".h":
                text = path.read_text()
                self.assertTrue(text.startswith("// "), f"{path} does not begin with what it is for")
                self.assertIn("#pragma once", text, str(path))

    def test_scripts_can_be_run(self):
        for name in ("run-demo", "run-tests", ".ci/run", "scripts/build", "scripts/describe", "scripts/fuzz", "scripts/kill-rounds", "scripts/make-locales", "scripts/plant-recipe", "scripts/random-input", "scripts/install-packages", "scripts/with-display", "scripts/screenshots"):
            self.assertTrue(os.access(SOURCE / name, os.X_OK), name)
            if "bash" in (SOURCE / name).read_text().splitlines()[0]:
                subprocess.run(["bash", "-n", str(SOURCE / name)], check=True)

    def test_numbers_have_no_locale(self):
        """The C library reads and writes them as the locale says: `quantity/number.h` is used instead."""
        for path in CODE:
            if "tests" in path.parts or "bench" in path.parts:
                continue
            found = re.search(r"\b(strto[dfl]d?|ato[fil]|sto[df]|sscanf|v?sn?printf|printf|to(?:lower|upper)|is(?:alpha|alnum|digit|space|upper|lower))\(", path.read_text())
            self.assertIsNone(found, f"{path}: {found and found.group(0)}")

    def test_the_fuzzer_knows_every_member(self):
        known = set(re.findall(r'\\"(\w+)\\"', (SOURCE / "tests/fuzz/members.dict").read_text()))
        sections = set()
        for name in ("project", "donor"):
            schema = json.loads((SOURCE / f"data/schema/gabarit-{name}.schema.json").read_text())
            sections |= set(schema["properties"]) if name == "project" else set()
            stack = [schema]
            while stack:
                part = stack.pop()
                if isinstance(part, dict):
                    self.assertLessEqual(set(part.get("properties", {})), known)
                    stack += part.values()
                elif isinstance(part, list):
                    stack += part
        files = [*(SOURCE / "tests/fuzz/corpus").glob("*.gabarit"), *(SOURCE / "tests").glob("*/seed.gabarit")]
        seeds = [json.loads(p.read_text()) for p in files]
        for section in sections:
            self.assertTrue(any(section in seed for seed in seeds), f"no seed of the fuzzer has {section}")

    def test_readme_is_true(self):
        readme = (SOURCE / "README.md").read_text()
        for command in ("./run-demo", "./run-tests"):
            self.assertIn(command, readme)
        for room in self.rooms:
            if "/" not in room:
                self.assertIn(f"`core/{room}`", readme)
        pictures = sorted(p.name for p in (SOURCE / "docs/screenshots").glob("*.png"))
        self.assertTrue(0 < len(pictures) < 20)
        for picture in pictures:
            self.assertIn(f"docs/screenshots/{picture}", readme)
        for target in re.findall(r"\]\(([^)#:]+)\)", readme):
            self.assertTrue((SOURCE / target).exists(), f"README links {target}")

    def test_libraries_are_listed_once(self):
        packages = [line for line in (SOURCE / "packaging/debian-packages").read_text().split("\n") if line and not line.startswith("#")]
        self.assertEqual(len(packages), len(set(packages)))
        for path in SOURCE.rglob("*"):
            if path.is_file() and path.parent.name in ("scripts", ".ci") and "apt-get install" in path.read_text():
                self.assertEqual("install-packages", path.name)


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1])

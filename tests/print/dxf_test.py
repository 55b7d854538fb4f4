"""What is written for a cutter, read back by a parser of another hand, against the report's own figures.

Usage: dxf_test.py SOURCE_DIR GABARIT_CLI
"""
import json
import pathlib
import subprocess
import sys
import tempfile
import unittest

import ezdxf

CLI = sys.argv[2]

PROJECT = {
    "format": "gabarit-project",
    "version": 2,
    "name": "Bay",
    "vehicle": {"name": "V", "bodies": [{
        "id": "beam", "name": "Beam", "category": "crossmember", "may": ["cut"], "accuracy_mm": 2,
        "shape": {"kind": "profile", "section": {"kind": "round_tube", "diameter_mm": 76, "wall_mm": 4},
                  "from_mm": [0, -300, 0], "to_mm": [0, 300, 0]}}]},
    "relief": {
        "pockets": [{
            "id": "p", "name": "Beam pocket", "body": "beam", "form": "box", "at_mm": [0, 0, 38], "into": [0, 0, -1],
            "along": [0, 1, 0], "length_mm": 120, "width_mm": 200, "depth_mm": 18, "flank_deg": 15, "corner_mm": 6,
            "plate_mm": 4}],
        "tubes": [{
            "id": "t", "name": "Brace", "diameter_mm": 42, "wall_mm": 3, "length_mm": 400,
            "first": {"onto": "tube", "diameter_mm": 60, "angle_deg": 50}, "second": {"onto": "plate", "angle_deg": 70}}],
        "plates": [{
            "id": "b", "name": "Blank", "holes": [
                {"name": "bolt", "x_mm": -40, "diameter_mm": 8.5}, {"name": "bore", "x_mm": 10, "y_mm": 3, "diameter_mm": 30}]}],
    },
}


class Dxf(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.folder = tempfile.TemporaryDirectory()
        cls.path = pathlib.Path(cls.folder.name)
        (cls.path / "p.gabarit").write_text(json.dumps(PROJECT))
        report = subprocess.run([CLI, "relief", str(cls.path / "p.gabarit"), "--json"], capture_output=True, text=True)
        relief = json.loads(report.stdout)["relief"]
        cls.patterns = {p["name"]: p for pocket in relief["pockets"] for p in pocket["patterns"]}
        cls.patterns.update({p["name"]: p["pattern"] for p in relief["plates"]})
        done = subprocess.run([CLI, "print", str(cls.path / "p.gabarit"), "--what", "templates", "--out",
                               str(cls.path / "out")], capture_output=True, text=True)
        assert done.returncode == 0, done.stderr

    @classmethod
    def tearDownClass(cls):
        cls.folder.cleanup()

    def read(self, name):
        drawing = ezdxf.readfile(self.path / "out" / (name + ".dxf"))
        self.assertEqual([], drawing.audit().errors)
        self.assertEqual(4, drawing.header["$INSUNITS"])  # millimetres
        return drawing

    def test_outlines_are_the_reports(self):
        for name, file in (("Beam pocket: bottom and ends", "beam-pocket-bottom-and-ends"), ("Blank", "blank"),
                           ("Beam pocket: cut line on the body", "beam-pocket-cut-line-on-the-body")):
            space = self.read(file).modelspace()
            lines = [e for e in space if e.dxftype() == "LWPOLYLINE"]
            self.assertEqual(1, len(lines))
            self.assertEqual("CUT", lines[0].dxf.layer)
            self.assertTrue(lines[0].closed)
            points = [(x, y) for x, y, *_ in lines[0].get_points()]
            wanted = self.patterns[name]["cut_mm"]
            self.assertEqual(len(wanted), len(points))
            for (x, y), (wx, wy) in zip(points, wanted):
                self.assertAlmostEqual(wx, x, delta=0.001)
                self.assertAlmostEqual(wy, y, delta=0.001)

    def test_bends_and_holes_have_their_layers(self):
        space = self.read("beam-pocket-bottom-and-ends").modelspace()
        bends = [e for e in space if e.dxf.layer == "BEND"]
        self.assertEqual(len(self.patterns["Beam pocket: bottom and ends"]["bends"]), len(bends))
        circles = [e for e in self.read("blank").modelspace() if e.dxftype() == "CIRCLE"]
        self.assertEqual([(-40, 0, 4.25), (10, 3, 15)],
                         [(c.dxf.center.x, c.dxf.center.y, c.dxf.radius) for c in circles])
        self.assertTrue(all(c.dxf.layer == "CUT" for c in circles))

    def test_words_are_marks(self):
        words = [e.dxf.text for e in self.read("blank").modelspace() if e.dxftype() == "TEXT"]
        self.assertIn("Blank", words)
        self.assertTrue(any("thick, make 1" in w for w in words))

    def test_each_pattern_has_its_files(self):
        for name in ("beam-pocket-bottom-and-ends", "brace-first-end", "brace-second-end", "blank"):
            self.assertTrue((self.path / "out" / (name + ".dxf")).exists())
            self.assertTrue((self.path / "out" / (name + ".svg")).exists())


if __name__ == "__main__":
    unittest.main(argv=sys.argv[:1])

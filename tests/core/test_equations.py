"""Equations: what is taken, what is refused and where, and that nothing but MathML comes out."""

import re
from unittest import TestCase
from xml.etree import ElementTree

from hypothesis import given
from hypothesis import strategies as st

from stillpage_core.equations import EquationError, check_equation, equation_html, mathml


class Taken(TestCase):
    def inside(self, latex):
        """The MathML without its annotation, tags and text only."""
        return re.sub(r"<annotation.*?</annotation>|</?semantics>", "", mathml(latex, display=False))

    def test_fractions_roots_and_powers_become_the_elements_that_mathml_has_for_them(self):
        # The elements are those of MathML Core (W3C), 3.3.2 (mfrac), 3.3.3 (msqrt, mroot) and 3.4.1 (msup).
        self.assertIn("<mfrac><mrow><mi>a</mi></mrow><mrow><mi>b</mi></mrow></mfrac>", self.inside(r"\frac{a}{b}"))
        self.assertIn("<msup><mi>x</mi><mn>2</mn></msup>", self.inside("x^2"))
        self.assertIn("<msqrt>", self.inside(r"\sqrt{2 g h}"))
        self.assertIn("<mroot>", self.inside(r"\sqrt[3]{x}"))
        self.assertIn("<mo>≤</mo>", self.inside(r"a \leq b"))

    def test_letters_of_another_face_are_signs_of_their_own_and_upright_ones_say_so(self):
        # MathML Core (W3C), 3.2.2: of the values of mathvariant there is only "normal"; other faces are letters of
        # Unicode's block of mathematical letters.
        self.assertIn('<mi mathvariant="normal">d</mi>', self.inside(r"\mathrm{d}x"))
        self.assertIn("<mi>\U0001d41a</mi><mi>\U0001d41b</mi>", self.inside(r"\mathbf{ab}"))
        self.assertIn("<mi>ℝ</mi>", self.inside(r"\mathbb{R}"))
        for latex in (r"\mathrm{kg}", r"\mathbf{ab}", r"\mathbb{RN}", r"\mathcal{LM}", r"\mathsf{ab}", r"\mathtt{ab}"):
            variants = set(re.findall(r'mathvariant="(\w+)"', self.inside(latex)))
            self.assertLessEqual(variants, {"normal"}, latex)

    def test_the_latex_goes_along_as_an_annotation(self):
        root = ElementTree.fromstring(mathml(r"a < b \& c", display=True))
        self.assertEqual(root.get("display"), "block")
        self.assertEqual(root.find(".//annotation[@encoding='application/x-tex']").text, r"a < b \& c")

    def test_much_that_is_usual_is_taken(self):
        for latex in (
            r"\sum_{i=1}^{n} x_i",
            r"\int_0^1 f(x)\,\mathrm{d}x",
            r"\left( \frac{x}{2} \right)",
            r"\begin{matrix} a & b \\ c & d \end{matrix}",
            r"\begin{cases} 1 & x > 0 \\ 0 & \text{otherwise} \end{cases}",
            r"\begin{array}{lc} a & b \end{array}",
            r"\alpha \cdot \vec{v} \approx \infty",
            r"\lim_{x \to 0} \sin x",
            r"f'(x)",
        ):
            with self.subTest(latex=latex):
                ElementTree.fromstring(mathml(latex, display=True))


class Refused(TestCase):
    def at(self, latex, place, words):
        with self.assertRaises(EquationError) as caught:
            check_equation(latex)
        self.assertEqual(caught.exception.place, place, f"{latex}: {caught.exception}")
        self.assertIn(words, str(caught.exception))

    def test_the_place_of_the_fault_is_told(self):
        self.at("", 0, "empty")
        self.at(r"x + \frob y", 4, "“\\frob” is not known")
        self.at(r"\frac{a}", 8, "missing after “\\frac”")
        self.at("2 + {a", 4, "never closed")
        self.at("a}", 1, "closes nothing")
        self.at("x^", 2, "missing after “^”")
        self.at("x^2^3", 3, "Two raised parts")
        self.at("x_1_2", 3, "Two lowered parts")
        self.at(r"\left( x", 0, "never closed")
        self.at(r"x \right)", 2, "no partner")
        self.at(r"\begin{matrix} a", 0, "never closed")
        self.at(r"\begin{matrix} a \end{cases}", 17, "another name")
        self.at(r"\begin{tabular} a \end{tabular}", 0, "no environment")
        self.at("a & b", 2, "columns")
        self.at("50 %", 3, "cannot stand")
        self.at("x" * 2001, 2000, "longer than")
        self.at("{" * 100 + "x" + "}" * 100, 60, "nested too deep")

    def test_commands_that_would_bring_links_styles_or_definitions_are_refused(self):
        for command in (
            r"\href{javascript:alert(1)}{x}",
            r"\style{x}{y}",
            r"\class{a}{b}",
            r"\def\x{y}",
            r"\color{red}x",
        ):
            with self.subTest(command=command), self.assertRaises(EquationError):
                check_equation(command)

    @given(
        st.text(max_size=40)
        | st.lists(
            st.sampled_from(
                [*r"{}^_&'ab1 <>", "\\frac", "\\left(", "\\right)", "\\text{a}", "\\\\", "\\begin{matrix}"]
            ),
            max_size=14,
        ).map("".join)
    )
    def test_any_input_gives_well_formed_mathml_or_code_and_nothing_that_acts(self, latex):
        html = equation_html(latex, display=False)
        self.assertRegex(html, r"^<(math|code)[ >]")
        if html.startswith("<math"):
            for element in ElementTree.fromstring(html).iter():
                self.assertFalse({"href", "style", "class", "id", "src"} & set(element.attrib), html)
                self.assertNotIn(element.tag, ("script", "a", "img", "style"))

"""Equations on their way in and out: MathML and Office MathML, there and back."""

import re
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st
from lxml import etree

from stillpage_core.equations import mathml
from stillpage_core.reading.mathml import latex_of, latex_of_omml
from stillpage_core.writing.omml import omml

USUAL = (
    r"\frac{a}{b}",
    r"x_i^2",
    r"Q = C_d A \sqrt{2 g h}",
    r"\sqrt[3]{x}",
    r"a \leq b \neq c",
    r"\sum_{i=1}^{n} x_i",
    r"\prod_{k=0}^{\infty} \left| a_k \right|",
    r"\int_0^1 f(x)\,\mathrm{d}x",
    r"\left( \frac{x}{2} \right)",
    r"\left\{ a, b \right\}",
    r"\begin{matrix} a & b \\ c & d \end{matrix}",
    r"\begin{pmatrix} 1 & 0 \\ 0 & 1 \end{pmatrix}",
    r"\begin{bmatrix} a \\ b \end{bmatrix}",
    r"\begin{cases} 1 & x > 0 \\ 0 & \text{otherwise} \end{cases}",
    r"\binom{n}{k} + 1",
    r"\alpha \cdot \vec{v} \approx \Gamma",
    r"\hat{x} + \bar{y} - \ddot{z}",
    r"\overline{AB}",
    r"\underbrace{a+b}_{n}",
    r"\overset{!}{=}",
    r"\lim_{x \to 0} \sin x",
    r"f'(x) = \frac{\mathrm{d}y}{\mathrm{d}x}",
    r"90^{\circ} \pm 50\,\%",
    r"A \cup B \subseteq \emptyset",
    r"\mathrm{kg}\,\mathrm{m}^{-3}",
    r"\text{rise of the lock} = 2.1\ \text{m}",
    r"a \quad b",
)


def bare(latex):
    """The MathML without its annotation, and without rows, which only group."""
    return re.sub(r"<annotation.*?</annotation>|</?semantics>|</?mrow>", "", mathml(latex, display=False))


def of_office(inside):
    namespace = "http://schemas.openxmlformats.org/officeDocument/2006/math"
    return latex_of_omml(etree.fromstring(f'<m:oMath xmlns:m="{namespace}">{inside}</m:oMath>'))


class ThereAndBack(TestCase):
    def test_mathml_without_an_annotation_comes_back_as_it_was(self):
        for latex in USUAL:
            with self.subTest(latex=latex):
                shown = re.sub(r"<annotation.*?</annotation>", "", mathml(latex, display=True))
                self.assertEqual(bare(latex_of(shown)), bare(latex))

    def test_office_mathml_comes_back_as_it_was(self):
        for latex in USUAL:
            with self.subTest(latex=latex):
                inside = omml(latex).removeprefix("<m:oMath>").removesuffix("</m:oMath>")
                self.assertEqual(bare(of_office(inside)), bare(latex))

    @given(st.lists(st.sampled_from(USUAL), min_size=1, max_size=3))
    def test_one_after_another_they_keep_their_order_and_lose_no_sign(self, several):
        latex = " + ".join(several)
        said = [re.sub(r"<[^>]*>|\s", "", bare(each)) for each in (latex,)]
        shown = re.sub(r"<annotation.*?</annotation>", "", mathml(latex, display=True))
        inside = omml(latex).removeprefix("<m:oMath>").removesuffix("</m:oMath>")
        for back in (latex_of(shown), of_office(inside)):
            self.assertEqual([re.sub(r"<[^>]*>|\s", "", bare(back))], said, back)


class FromElsewhere(TestCase):
    """As other programs write it, which need not be as we do."""

    def test_examples_of_the_mathml_recommendation(self):
        # MathML 3 (W3C), 2.1.1 and 3.3: the quadratic formula, fences, a fraction without a bar. From memory.
        quadratic = (
            "<math><mrow><mi>x</mi><mo>=</mo><mfrac><mrow><mrow><mo>-</mo><mi>b</mi></mrow><mo>&#xB1;</mo><msqrt><mrow>"
            "<msup><mi>b</mi><mn>2</mn></msup><mo>-</mo><mrow><mn>4</mn><mo>&#x2062;</mo><mi>a</mi><mo>&#x2062;</mo>"
            "<mi>c</mi></mrow></mrow></msqrt></mrow><mrow><mn>2</mn><mo>&#x2062;</mo><mi>a</mi></mrow></mfrac></mrow>"
            "</math>"
        )
        self.assertEqual(latex_of(quadratic), r"x=\frac{-b\pm\sqrt{b^{2}-4ac}}{2a}")
        self.assertEqual(latex_of("<math><mfenced><mi>x</mi><mi>y</mi></mfenced></math>"), r"\left( x,y \right)")
        choose = (
            '<math><mfenced><mfrac linethickness="0px"><mi>n</mi><mi>k</mi></mfrac></mfenced></math>',
            '<math><mo>(</mo><mfrac linethickness="0"><mi>n</mi><mi>k</mi></mfrac><mo>)</mo></math>',
        )
        for each in choose:
            self.assertEqual(latex_of(each), r"\binom{n}{k}")
        bare = '<math><mi>a</mi><mfrac linethickness="0"><mi>n</mi><mi>k</mi></mfrac></math>'
        self.assertEqual(latex_of(bare), r"a\begin{matrix} n \\ k \end{matrix}")  # No brackets that were not there.

    def test_a_fence_alone_gets_a_partner_that_is_not_seen(self):
        half = '<math><mo fence="true" form="{}">{}</mo><mi>x</mi><mo fence="true" form="{}">{}</mo></math>'
        self.assertEqual(latex_of(half.format("prefix", "{", "infix", "")), r"\left\{x\right.")
        self.assertEqual(latex_of(half.format("infix", "", "postfix", "|")), r"\left.x\right|")

    def test_what_office_programs_write(self):
        # Elements and properties as in ECMA-376, part 1, 22.1.2.
        run = "<m:r><m:t>{}</m:t></m:r>".format
        for inside, latex in (
            (f"<m:sSup><m:e>{run('x')}</m:e><m:sup>{run('2')}</m:sup></m:sSup>", "x^{2}"),
            (f"<m:rad><m:deg>{run('3')}</m:deg><m:e>{run('x')}</m:e></m:rad>", r"\sqrt[3]{x}"),
            (f'<m:rad><m:radPr><m:degHide m:val="1"/></m:radPr><m:deg/><m:e>{run("x")}</m:e></m:rad>', r"\sqrt{x}"),
            (f"<m:nary><m:sub>{run('0')}</m:sub><m:sup>{run('1')}</m:sup><m:e>{run('x')}</m:e></m:nary>",
             r"\int_{0}^{1}x"),
            (f'<m:bar><m:barPr><m:pos m:val="bot"/></m:barPr><m:e>{run("x")}</m:e></m:bar>', r"\underline{x}"),
            (f'<m:bar><m:barPr><m:pos m:val="top"/></m:barPr><m:e>{run("x")}</m:e></m:bar>', r"\overline{x}"),
            (f"<m:acc><m:e>{run('x')}</m:e></m:acc>", r"\hat{x}"),
            (f"<m:groupChr><m:e>{run('x')}</m:e></m:groupChr>", r"\underbrace{x}"),
            (f'<m:d><m:dPr><m:begChr m:val="["/><m:endChr m:val="]"/></m:dPr><m:e>{run("x")}</m:e></m:d>',
             r"\left[ x \right]"),
            (f"<m:func><m:fName><m:r><m:rPr><m:sty m:val='p'/></m:rPr><m:t>sin</m:t></m:r></m:fName>"
             f"<m:e>{run('x')}</m:e></m:func>", r"\sin x"),
            (f"<m:eqArr><m:e>{run('x')}</m:e><m:e>{run('y')}</m:e></m:eqArr>", r"\begin{matrix} x \\ y \end{matrix}"),
            ("<m:r><m:rPr><m:nor/></m:rPr><m:t>when wet</m:t></m:r>", r"\text{when wet}"),
            ("<m:r><m:rPr><m:sty m:val='p'/></m:rPr><m:t>kg</m:t></m:r>", r"\mathrm{kg}"),
            (run("2.5x+1"), "2.5x+1"),
        ):  # fmt: skip
            with self.subTest(latex=latex):
                self.assertEqual(of_office(inside), latex)

    def test_what_is_no_equation_is_none_and_does_no_harm(self):
        for broken in ("", "<math>", "<math/>", "no markup", "<math><mfrac><mi>x</mi></math>", "<p>x</p>"):
            self.assertIsInstance(latex_of(broken), str)
        deep = "<math>" + "<mrow>" * 500 + "<mi>x</mi>" + "</mrow>" * 500 + "</math>"
        self.assertIn(latex_of(deep), ("", "x"))
        self.assertNotIn("\\href", latex_of(r"<math><mtext>\href{javascript:alert(1)}{x}</mtext></math>"))

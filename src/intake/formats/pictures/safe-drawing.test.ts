import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { SaxesParser } from "saxes";
import { safeDrawing } from "./safe-drawing";

const svg = (inside: string, more = 'viewBox="0 0 100 50"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${more}>${inside}</svg>`;

function kept(inside: string, more?: string) {
  const read = safeDrawing(svg(inside, more));
  if (!read.ok) throw new Error(read.error);
  return read.value;
}
const whyNot = (text: string): string => {
  const read = safeDrawing(text);
  return read.ok ? "taken" : read.error;
};

/** The elements and attributes of a drawing, read by a parser of XML. */
function partsOf(text: string): { readonly elements: string[]; readonly attributes: (readonly [string, string])[] } {
  const [elements, attributes] = [[] as string[], [] as (readonly [string, string])[]];
  const parser = new SaxesParser({ xmlns: true });
  parser.on("error", (error) => {
    throw error;
  });
  parser.on("opentag", (tag) => {
    elements.push(tag.local);
    for (const { name, value } of Object.values(tag.attributes)) attributes.push([name, value]);
  });
  parser.write(text).close();
  return { elements, attributes };
}

// Ways in which drawings are known to run, fetch or embed: SVG 2, §5.9, §12 and §14; SVG Integration; CSS Images 3, §2 (from memory).
const harmful: readonly (readonly [string, string])[] = [
  ["<script>alert(1)</script>", "script"],
  ['<script xlink:href="data:,alert(1)"/>', "script"],
  ["<foreignObject><body xmlns='http://www.w3.org/1999/xhtml' onload='x()'/></foreignObject>", "foreignObject"],
  ['<rect width="1" height="1" onload="x()"/>', "onload"],
  ['<rect width="1" height="1" ONCLICK="x()"/>', "ONCLICK"],
  ['<a href="javascript:x()"><rect width="1" height="1"/></a>', ""],
  ['<image href="http://elsewhere.test/a.png"/>', "image from elsewhere"],
  ['<image xlink:href="data:image/svg+xml;base64,PHN2Zy8+"/>', "image from elsewhere"],
  ['<use href="http://elsewhere.test/a.svg#b"/>', "use from elsewhere"],
  ['<use href="data:image/svg+xml,x#b"/>', "use from elsewhere"],
  ['<rect fill="url(http://elsewhere.test/a.svg#b)"/>', "fill that is not safe"],
  ['<rect style="fill:url( //elsewhere.test/a#b )"/>', "style that is not safe"],
  ['<rect style="background:image-set(&quot;//elsewhere.test&quot; 1x)"/>', "style that is not safe"],
  ['<rect style="fill:u\\72l(//elsewhere.test)"/>', "style that is not safe"],
  ["<style>@import '//elsewhere.test';</style>", "style sheet that is not safe"],
  ["<style>rect{fill:url(//elsewhere.test)}</style>", "style sheet that is not safe"],
  ["<style>rect{animation:a 1s}</style>", "style sheet that is not safe"],
  ['<rect><animate attributeName="href" to="javascript:x()"/></rect>', "animate"],
  ['<set attributeName="onclick" to="x()"/>', "set"],
  ["<iframe src='//elsewhere.test'/>", "iframe"],
  ["<filter id='f'><feImage href='//elsewhere.test'/></filter>", "filter"],
  ['<handler type="x"/>', "handler"],
  ["<marker id='m'><rect width='1' height='1'/></marker>", "marker"],
  ["<style>path{marker-mid:none}</style>", "style sheet that is not safe"],
];

describe("a drawing that comes in", () => {
  test.each(harmful)("is kept without %s, which is told", (inside, told) => {
    const { text, leftOut } = kept(inside);
    expect([...leftOut.keys()].join()).toBe(told);
    expect(text).not.toMatch(/script|elsewhere|onload|onclick|javascript|import|foreignObject|animat|iframe|data:/i);
    partsOf(text);
  });

  test("keeps what draws: shapes, words, gradients, what is used again, pictures inside it", () => {
    const inside =
      '<defs><linearGradient id="g"><stop offset="0" stop-color="#fff"/></linearGradient><path id="leaf" d="M0 0h5"/></defs>' +
      "<style>.wall{fill:url(#g);stroke:#000}</style>" +
      '<rect class="wall" style="stroke-width:2;filter:blur(9px);marker-mid:url(#g)" width="9" height="9" fill="url(\'#g\')"/><use xlink:href="#leaf" x="3"/>' +
      '<text x="1">Hall &amp; &lt;b&gt;</text><image href="data:image/png;base64,iVBORw0KGgo="/>';
    const { text, leftOut, pictures } = kept(inside);
    expect([...leftOut]).toEqual([]);
    expect(pictures).toEqual(["iVBORw0KGgo="]);
    expect(text).toContain('<use href="#leaf" x="3"/>');
    expect(text).toContain("Hall &amp; &lt;b&gt;");
    expect(text).toContain('style="stroke-width:2"');
    expect(text).toContain(".wall{fill:url(#g);stroke:#000}");
  });

  test("is laid out by what it says of its size, in any unit", () => {
    const sizes = (more: string) => {
      const { width, height } = kept("<g/>", more);
      return [width, height];
    };
    expect(sizes('viewBox="-5,-5 400 100"')).toEqual([2000, 500]);
    expect(sizes('width="210mm" height="297mm"')).toEqual([1414, 2000]);
    expect(sizes('width="10in" height="720pt"')).toEqual([2000, 2000]);
    expect(sizes('width="100%" height="100%" viewBox="0 0 1 2"')).toEqual([1000, 2000]);
  });

  test("is refused by name where it is no drawing, or would never be painted to the end", () => {
    expect(whyNot("<html/>")).toMatch(/begins with <html>/);
    expect(whyNot("<svg/>")).toMatch(/begins with <svg>, not/);
    expect(whyNot(svg("<g>"))).toMatch(/^it is not well formed: 1:\d+/);
    expect(whyNot(`<!DOCTYPE svg [<!ENTITY a "b">]>${svg("&a;")}`)).toMatch(/definitions of its own/);
    expect(whyNot(svg("&a;"))).toMatch(/not well formed/);
    expect(whyNot(svg("<g/>", ""))).toMatch(/how large/);
    expect(whyNot(svg("<g/>", 'viewBox="0 0 0 5"'))).toMatch(/how large/);
    expect(whyNot(svg("<g/>", 'viewBox="0 0 1 9999"'))).toMatch(/more than 50 times/);
    expect(whyNot(svg('<g id="a"><use href="#a"/></g>'))).toBe("something in it uses itself");
    expect(whyNot(svg('<mask id="a"><rect mask="url(#a)"/></mask>'))).toBe("something in it uses itself");
    expect(whyNot(svg("<g>".repeat(300) + "</g>".repeat(300)))).toMatch(/nested more than/);
    // Ten of each of the ten before, ten times over: a few lines that would paint ten thousand million shapes.
    const doubled = Array.from({ length: 10 }, (_, i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(10)}</g>`).join("");
    expect(whyNot(svg(`<g id="a0"/>${doubled}`))).toMatch(/paints more than/);
  });

  test("is read in time that grows with its length, whatever it holds", () => {
    const long = 300_000;
    for (const inside of [
      `<style>${"/* ".repeat(long)}</style>`,
      `<style>${"url(".repeat(long)}</style>`,
      `<style>${"url(   ".repeat(long / 3)}</style>`,
      `<rect style="${"fill:url('#".repeat(long / 10)}"/>`,
      `<rect fill="${"url( ".repeat(long / 4)}"/>`,
      `<image href="data:image/png;base64,${"A ".repeat(long)}!"/>`,
    ])
      expect([inside.slice(0, 40), kept(inside).leftOut.size]).toEqual([inside.slice(0, 40), 1]);
    for (const more of [`viewBox="${"1".repeat(long)}"`, `viewBox="${"1 ".repeat(long)}"`, `width="${"1".repeat(long)}x" height="1"`])
      expect(whyNot(svg("<g/>", more))).toMatch(/longer than any size/);
    // Each of these would take minutes if it took the square of its length: then the test has long been given up.
  }, 20_000);

  test("comes out well formed and harmless whatever came in, and the same when it comes in again", () => {
    const name = fc.constantFrom("rect", "g", "use", "script", "style", "image", "text", "a", "mask", "foreignObject", "animate", "linearGradient");
    const attribute = fc.constantFrom("id", "href", "xlink:href", "onload", "style", "fill", "mask", "width", "class");
    const value = fc.constantFrom(
      "#a",
      "a",
      "url(#a)",
      "url(//x.test)",
      "javascript:x()",
      "fill:red",
      "5",
      "data:image/png;base64,AA==",
      "&lt;&quot;",
      "u\\72l(x)",
      "Ü😀",
    );
    const element: fc.Arbitrary<string> = fc.letrec<{ element: string }>((tie) => ({
      element: fc
        .tuple(
          name,
          fc.uniqueArray(fc.tuple(attribute, value), { maxLength: 3, selector: ([key]) => key }),
          fc.array(fc.oneof({ maxDepth: 4 }, fc.constantFrom("x", "&amp;", "]]"), tie("element")), { maxLength: 4 }),
        )
        .map(([tag, given, content]) => `<${tag}${given.map(([key, text]) => ` ${key}="${text}"`).join("")}>${content.join("")}</${tag}>`),
    })).element;
    let taken = 0;
    fc.assert(
      fc.property(fc.array(element, { maxLength: 5 }), (inside) => {
        const read = safeDrawing(svg(inside.join("")));
        if (!read.ok) return expect(read.error).toMatch(/uses itself|well formed/);
        taken++;
        const { elements, attributes } = partsOf(read.value.text);
        for (const tag of elements) expect(["script", "foreignObject", "animate", "a"]).not.toContain(tag);
        for (const [key, text] of attributes) {
          expect(key).not.toMatch(/^on/i);
          if (key === "href") expect(text).toMatch(/^(#|data:image\/png;base64,)/);
          else if (!["xmlns", "id", "class"].includes(key)) expect(text).not.toMatch(/x\.test|javascript|\\/);
        }
        const again = safeDrawing(read.value.text);
        return expect(again.ok && [again.value.text, again.value.leftOut.size]).toEqual([read.value.text, 0]);
      }),
      { numRuns: 400 },
    );
    expect(taken).toBeGreaterThan(100);
  });
});

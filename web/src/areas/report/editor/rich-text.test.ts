import { MarkdownManager } from '@tiptap/markdown';
import { isRich, liveName, richText } from './rich-text';

describe('the editor of texts', () => {
  it.each([
    ['words with **bold**, *italic*, `code`, ~~gone~~'],
    ['# One\n\n## Two\n\n### Three\n\nand text'],
    ['- one\n- two\n  - below\n\n1. first\n2. second'],
    ['> quoted\n>\n> twice'],
    ['| Quantity | Value |\n| --- | --- |\n| margin | 16.8 % |'],
    ['Lift is $C_L = \\frac{2 W}{\\rho V^2 S}$ here.'],
    ['before\n\n$$\nE = \\frac{c_l}{c_d}\n$$\n\nafter'],
    ['Its margin is @{A static-margin}, and @{level-CD}.'],
    ['[a link](https://example.org/x?a=1) and a line  \nbroken'],
    ['<script>alert(1)</script> is text, 3 < 4 & "so on"'],
    ['a_b * c, 5 $ and 6, C:\\path'],
    ['```\ncode < 3\n```'],
    ['---'],
    [''],
  ])('gives back %j', (text) => expect(isRich(text)).toBe(true));

  it('leaves what it does not know to Markdown', () => {
    expect(isRich('[a]: https://example.org\n\n![picture][a]')).toBe(false);
  });
  it('keeps live numbers and formulas as nodes', () => {
    const manager = new MarkdownManager({ extensions: richText() });
    const content = JSON.stringify(manager.parse('x @{A static-margin} $a_b$'));
    expect(content).toContain('{"type":"liveNumber","attrs":{"of":"A static-margin"}}');
    expect(content).toContain('{"type":"formula","attrs":{"tex":"a_b"}}');
  });
  it('names live numbers by their quantity', () => {
    expect(liveName('A static-margin')).toBe('A: static margin');
    expect(liveName('static-margin')).toBe('static margin');
    expect(liveName('A nonsense')).toBe('?A nonsense');
  });
});

import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { initWasm, Resvg } from '@resvg/resvg-wasm';
import { FONT_FILES } from './fonts';

let ready: Promise<Uint8Array[]> | undefined;
/** The drawer and its fonts, loaded once. */
const started = () =>
  (ready ??= (async () => {
    const own = createRequire(import.meta.url);
    await initWasm(await readFile(own.resolve('@resvg/resvg-wasm/index_bg.wasm')));
    const { normal, bold, italics } = FONT_FILES['Source Sans 3'];
    return Promise.all([normal, bold, italics].map((file) => readFile(file)));
  })());

/** An SVG of {@link figureSvg} as a PNG, twice its size. */
export async function pngOf(svg: string, width: number): Promise<Uint8Array> {
  const fontBuffers = await started();
  const drawer = new Resvg(svg, {
    fitTo: { mode: 'width', value: 2 * width },
    background: '#ffffff',
    font: { fontBuffers, defaultFontFamily: 'Source Sans 3', loadSystemFonts: false } as never,
  });
  const image = drawer.render();
  try {
    return image.asPng();
  } finally {
    image.free();
    drawer.free();
  }
}

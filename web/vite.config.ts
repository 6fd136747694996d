import tailwind from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';
import { compression } from 'vite-plugin-compression2';

/** The server that `./surge dev` started; without it nothing answers under /api. */
const api = process.env['VAST_SURGE_API'] ?? 'http://127.0.0.1:4600';

/** Of the fonts that formulas are set in the form that every browser takes: the style sheet names two older ones as well. */
const modernFonts: Plugin = {
  name: 'modern-fonts',
  enforce: 'pre',
  transform: (code, id) =>
    /katex[^/]*\.css/.test(id) ? code.replace(/,url\([^)]*\.(?:woff|ttf)\) format\("[a-z]+"\)/g, '') : undefined,
};

/** In place of a `<style>` element, which the server's policy lets nobody put into a page. */
const adopt = (css: string): string =>
  `const sheet = new CSSStyleSheet(); sheet.replaceSync(${css}); document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet];`;

/** Functions of packages that make such an element, and what they do here: a build in which one of them is missing fails. */
const makingElements: readonly { readonly in: RegExp; readonly replaced: readonly (readonly [RegExp, string])[] }[] = [
  {
    in: /sonner\/dist\/index\.mjs$/,
    replaced: [[/function __insertCSS\(code\) \{[\s\S]*?\n\}/, `function __insertCSS(code) { ${adopt('code')} }`]],
  },
  {
    in: /react-style-singleton\/dist\/es2015\/singleton\.js$/,
    replaced: [
      [/function makeStyleTag\(\) \{[\s\S]*?\n\}/, 'function makeStyleTag() { return new CSSStyleSheet(); }'],
      [/function injectStyles\(tag, css\) \{[\s\S]*?\n\}/, 'function injectStyles(sheet, css) { sheet.replaceSync(css); }'],
      [
        /function insertStyleTag\(tag\) \{[\s\S]*?\n\}/,
        'function insertStyleTag(sheet) { document.adoptedStyleSheets = [...document.adoptedStyleSheets, sheet]; }',
      ],
      [
        /stylesheet\.parentNode && stylesheet\.parentNode\.removeChild\(stylesheet\);/,
        'document.adoptedStyleSheets = document.adoptedStyleSheets.filter((one) => one !== stylesheet);',
      ],
    ],
  },
];

const noStyleElements: Plugin = {
  name: 'no-style-elements',
  apply: 'build',
  transform: (code, id) => {
    const found = makingElements.find((one) => one.in.test(id));
    return found?.replaced.reduce((text, [part, instead]) => {
      if (!part.test(text)) throw new Error(`${id} makes its style elements in another way than it did`);
      return text.replace(part, () => instead);
    }, code);
  },
};

export default defineConfig({
  root: import.meta.dirname,
  // Compressed here, once, and not by the server for everybody who asks.
  plugins: [
    react(),
    tailwind(),
    modernFonts,
    noStyleElements,
    compression({ algorithms: ['gzip', 'brotliCompress'], include: /\.(js|css|svg)$/ }),
  ],
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    chunkSizeWarningLimit: 2500,
    // Which scripts a page stands on: what the budget is counted by.
    manifest: true,
    // A font inside a style sheet is none of this address.
    assetsInlineLimit: (file) => (/\.woff2$/.test(file) ? false : undefined),
  },
  // Modules, so that what the workers share is one file.
  worker: { format: 'es' },
  server: {
    host: '127.0.0.1',
    port: 4610,
    strictPort: true,
    proxy: {
      '/api': {
        target: api,
        changeOrigin: true,
        // The server answers pages of its own address alone.
        configure: (proxy) => void proxy.on('proxyReq', (request) => request.setHeader('origin', api)),
      },
    },
  },
});

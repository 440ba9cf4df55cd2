import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import escapeHtml from 'escape-html';
import { MOST_DEVICE_NAME } from '../../core/shop/devices.ts';

const require = createRequire(import.meta.url);
const font = (path: string): string =>
  `url(data:font/woff2;base64,${readFileSync(require.resolve(`@fontsource/${path}`)).toString('base64')})`;

interface DoorPage {
  /** Why nobody was let in just now; nothing at first. */
  readonly trouble?: string;
  /** What was typed before. */
  readonly name?: string;
  readonly encrypted: boolean;
}

/** The only page that is shown to a device that was not let in: it needs nothing else from here. */
export const doorPage = ({ trouble = '', name = '', encrypted }: DoorPage): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Retablo: let this device in</title>
<style>
@font-face { font-family: Title; src: ${font('young-serif/files/young-serif-latin-400-normal.woff2')} }
@font-face { font-family: Text; src: ${font('atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff2')} }
* { box-sizing: border-box }
body { margin: 0; background: #17140f; color: #f5ecdb; font: 22px/1.4 Text, sans-serif }
main { max-width: 560px; margin: 0 auto; padding: 48px 24px }
h1 { font: 44px/1.1 Title, serif; margin: 0 0 12px }
p { margin: 0 0 20px }
label { display: block; margin: 24px 0 8px }
input { width: 100%; min-height: 64px; padding: 8px 16px; font: inherit; color: inherit; background: #26211a; border: 2px solid #cdbfa6; border-radius: 6px }
input#passphrase { font-size: 30px; letter-spacing: 0.06em }
::placeholder { color: #cdbfa6; opacity: 1 }
button { width: 100%; min-height: 72px; margin: 32px 0 24px; font: inherit; font-size: 26px; color: #fff; background: #8f2419; border: 0; border-radius: 6px }
:focus-visible { outline: 3px solid #ffcf70; outline-offset: 2px }
[role=alert] { padding: 12px 16px; background: #3a1512; border-left: 6px solid #ffb3a8 }
small { color: #cdbfa6; font-size: 20px }
</style>
</head>
<body>
<main>
<h1>Retablo</h1>
<p>Let this device in. The passphrase stands where Retablo was started.</p>
${trouble && `<p role="alert">${escapeHtml(trouble)}</p>`}
<form method="post" action="/door">
<label for="passphrase">Passphrase</label>
<input id="passphrase" name="passphrase" required autofocus autocomplete="off" autocapitalize="none" autocorrect="off" spellcheck="false" maxlength="60" placeholder="three groups of four">
<label for="name">Name of this device</label>
<input id="name" name="name" required maxlength="${MOST_DEVICE_NAME}" value="${escapeHtml(name)}" placeholder="tablet at the press">
<button>Let it in</button>
</form>
${encrypted ? '' : '<small>What is sent between here and the shop’s computer is not encrypted: use it in the shop’s own network only.</small>'}
</main>
</body>
</html>
`;

import sharp from 'sharp';
const files = process.argv.slice(3); const out = process.argv[2];
const W = Math.floor(1500 / files.length);
const imgs = await Promise.all(files.map((f) => sharp(f).resize({ width: W }).toBuffer({ resolveWithObject: true })));
const h = Math.max(...imgs.map((i) => i.info.height));
await sharp({ create: { width: W * files.length, height: h, channels: 3, background: '#888' } }).composite(imgs.map((i, k) => ({ input: i.data, left: k * W, top: 0 }))).png().toFile(out);

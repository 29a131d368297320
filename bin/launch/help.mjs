/**
 * All commands and what they take.
 *
 * @param {string} self as it is called: `./emporion` in a checkout
 */
export function helpText(self) {
  return `Emporion: drum sounds brought in, sorted, tried, made into kits, and stored.

  ${self} demo     start with demo sounds, made here on the first start
  ${self} start    start with your own data folder, empty at first
  ${self} doctor   look over Node, disk, data folder, port, browser and audio, and say what to do
  ${self} test     lint, types, unit, conformance and end-to-end tests (in a checkout)
  ${self} analyse PATH...   measure sounds and print what was found (--json for JSON lines, --audio-only to leave names aside)
  ${self} convert KIT --to TARGET --out DIR   fit a kit to a format or a device and write it
                      (KIT: a preset, package, SFZ, SF2, DLS or folder; --preset, --json, --dry-run,
                      --strict: end with 1 where a pad or layer is left out)
  ${self} targets  list formats and devices that kits can be fitted to (--json)
  ${self} verify PACKAGE   check a kit package: its checksums, and that each sample is the one the kit names
  ${self} verify FOLDER --to TARGET   check what was written for a target against its limits
  ${self} bench    measure Emporion itself (in a checkout; add --json for JSON lines)
  ${self} help     this text

For demo, start and doctor:
  --port N            listen on http://127.0.0.1:N (4310)
  --data DIR          keep everything in DIR (in a checkout .data/demo and .data/own)
  --root DIR          allow samples to be read from DIR too (your home folder is allowed);
                      may be given several times
  --open              open the page in your browser
  --reset             delete the data folder first, where it was made for the demo alone`
}

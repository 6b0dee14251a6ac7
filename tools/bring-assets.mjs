// Copies what the application serves of other people's packages from node_modules to wwwroot/lib, with their licences.
import { cpSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";

const from = "node_modules";
const to = "src/EvenThimble.Web/wwwroot/lib";
const weights = { "@fontsource/figtree": [400, 500, 600, 700], "@fontsource/fraunces": [500, 600] };

rmSync(to, { recursive: true, force: true });
mkdirSync(to, { recursive: true });
const copies = [
  ["htmx.org/dist/htmx.min.js", "htmx.min.js"],
  ["bootstrap/dist/css/bootstrap.min.css", "bootstrap.min.css"],
  ["bootstrap/dist/js/bootstrap.bundle.min.js", "bootstrap.bundle.min.js"],
  ["bootstrap-icons/font/bootstrap-icons.min.css", "bootstrap-icons.min.css"],
  ["bootstrap-icons/font/fonts/bootstrap-icons.woff2", "fonts/bootstrap-icons.woff2"],
];
for (const [source, target] of copies) cpSync(join(from, source), join(to, target));

let faces = "";
for (const [name, wanted] of Object.entries(weights)) {
  const family = name.split("/")[1];
  for (const weight of wanted) {
    const file = `${family}-latin-${weight}-normal.woff2`;
    cpSync(join(from, name, "files", file), join(to, "fonts", file));
    faces += `@font-face { font-family: "${family[0].toUpperCase()}${family.slice(1)}"; font-style: normal; font-weight: ${weight}; font-display: swap; src: url("fonts/${file}") format("woff2"); }\n`;
  }
}
writeFileSync(join(to, "fonts.css"), faces);

// Lettering fonts: what is stitched of, and what papers are printed in, read by the server alone.
const letters = "src/EvenThimble.Rendering/Fonts/letters";
const lettering = {
  "allerta-stencil": "AllertaStencil_400Regular.ttf", archivo: "700Bold/Archivo_700Bold.ttf", bitter: "700Bold/Bitter_700Bold.ttf", "bowlby-one": "400Regular/BowlbyOne_400Regular.ttf",
  "caveat-brush": "400Regular/CaveatBrush_400Regular.ttf", courgette: "400Regular/Courgette_400Regular.ttf", "dancing-script": "700Bold/DancingScript_700Bold.ttf",
  fredoka: "500Medium/Fredoka_500Medium.ttf", graduate: "Graduate_400Regular.ttf", "great-vibes": "400Regular/GreatVibes_400Regular.ttf",
  "grenze-gotisch": "600SemiBold/GrenzeGotisch_600SemiBold.ttf", "libre-baskerville": "700Bold/LibreBaskerville_700Bold.ttf", "pt-sans-caption": ["PTSansCaption_700Bold.ttf", "PTSansCaption_400Regular.ttf"], "saira-condensed": "600SemiBold/SairaCondensed_600SemiBold.ttf",
};
rmSync(letters, { recursive: true, force: true });
mkdirSync(letters, { recursive: true });
for (const [name, file] of Object.entries(lettering).flatMap(([name, files]) => [files].flat().map((file) => [name, file]))) cpSync(join(from, "@expo-google-fonts", name, file), join(letters, file.split("/").at(-1)));

const packages = ["@fontsource/figtree", "@fontsource/fraunces", "bootstrap", "bootstrap-icons", "htmx.org", ...Object.keys(lettering).map((name) => `@expo-google-fonts/${name}`)];
const licences = packages.map((name) => {
  const { version, license } = JSON.parse(readFileSync(join(from, name, "package.json"), "utf8"));
  const text = readdirSync(join(from, name)).find((file) => /^licen[cs]e/i.test(file));
  return { name, version, licence: license, text: text ? readFileSync(join(from, name, text), "utf8") : "" };
});
writeFileSync(join(to, "licences.json"), JSON.stringify(licences, null, 1));
writeFileSync(join(to, ".stamp"), "");

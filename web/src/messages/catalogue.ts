import { IntlMessageFormat } from "intl-messageformat";
import words from "./words.json";

/** What a place in a template takes, as the server sends it: text, a count, a value as it is shown, messages in turn. */
export type Param = string | number | { shown: string } | { items: Param[]; separator: string } | MessageData;
export type MessageData = { id: string; params: Record<string, unknown>; standard: string };

const ENGLISH = "en";
/** The catalogues of the server and of the views, by language: `.../data/en/checks.json`, `./en.json`. */
const FILES: Record<string, Record<string, string>> = import.meta.glob(
  ["../../../src/vivid_lattice/core/messages/data/*/*.json", "./texts/*/*.json"],
  { eager: true, import: "default" },
);
const catalogues = new Map<string, Map<string, string>>();
for (const [path, texts] of Object.entries(FILES)) {
  const language = path.split("/").at(-2) ?? ENGLISH;
  const catalogue = catalogues.get(language) ?? new Map<string, string>();
  for (const [id, text] of Object.entries(texts)) catalogue.set(id, text);
  catalogues.set(language, catalogue);
}

type Words = { english: string; forms: Record<string, string> };
const WORDS: Record<string, Words> = words;
/** Where no standard is open yet, the words are those of the first one. */
const anyWords = Object.values(WORDS)[0];

const KEPT_AS = "language";
let language = globalThis.localStorage?.getItem(KEPT_AS) ?? ENGLISH;

/** The language that texts are made in, and the languages there are (variants of English go by the standard). */
export const languageNow = (): string => language;
export const LANGUAGES: readonly string[] = [...catalogues.keys()]
  .filter((name) => !name.includes("-"))
  .sort();

/** Texts in another language from now on; what is drawn already has to be drawn again. */
export function setLanguage(name: string): void {
  language = catalogues.has(name) ? name : ENGLISH;
  globalThis.localStorage?.setItem(KEPT_AS, language);
  rendered = new WeakMap();
}

/** Sentences that were made already, of the language of now. */
let rendered = new WeakMap<MessageData, string>();
const compiled = new Map<string, IntlMessageFormat>();

/** The compiled template of an id: of the language, else of the standard's English, else of English. */
function template(id: string, english: string): IntlMessageFormat {
  const key = `${language} ${english} ${id}`;
  const made = compiled.get(key);
  if (made) return made;
  const order = language === ENGLISH ? [english, ENGLISH] : [language, english, ENGLISH];
  for (const name of order) {
    const text = catalogues.get(name)?.get(id);
    if (text === undefined) continue;
    const format = new IntlMessageFormat(text, name, undefined, { ignoreTag: true });
    compiled.set(key, format);
    return format;
  }
  throw new Error(`no message ${id}`);
}

/** A word of a standard for an argument such as `t_rcd`, `t_rcds`, `t_rcd_a`; `t_Rcd` and `t_rcd_A` with a capital. */
function word(argument: string, forms: Record<string, string>): string | undefined {
  const key = argument.slice(2);
  const capital = key.endsWith("_A") || key[0] !== key[0]?.toLowerCase();
  const plain = key[0]?.toLowerCase() + key.slice(1).replace(/_A$/, "_a");
  const found = forms[plain];
  return found && capital ? found[0]?.toUpperCase() + found.slice(1) : found;
}

/** The words of a standard as parameters: looked up only where a template asks for one. */
function wordsOf(forms: Record<string, string>): ProxyHandler<Record<string, string | number>> {
  const isWord = (name: string | symbol): name is string => typeof name === "string" && name.startsWith("t_");
  return {
    get: (target, name) => (isWord(name) ? word(name, forms) : Reflect.get(target, name)),
    has: (target, name) => (isWord(name) ? word(name, forms) !== undefined : Reflect.has(target, name)),
    getOwnPropertyDescriptor: (target, name) =>
      isWord(name)
        ? { configurable: true, enumerable: true, value: word(name, forms) }
        : Reflect.getOwnPropertyDescriptor(target, name),
  };
}

const decimal = (shown: string): string => (language === "de" ? shown.replace(".", ",") : shown);

function value(param: Param): string | number {
  if (typeof param !== "object") return param;
  if ("shown" in param) return decimal(param.shown);
  if ("items" in param) return param.items.map((item) => String(value(item))).join(param.separator);
  return render(param);
}

/** The sentence of a message, made once. */
export function render(message: MessageData): string {
  const made = rendered.get(message);
  if (made !== undefined) return made;
  const sentence = sentenceOf(message);
  rendered.set(message, sentence);
  return sentence;
}

function sentenceOf({ id, params, standard }: MessageData): string {
  const known = WORDS[standard] ?? anyWords;
  const values: Record<string, string | number> = {};
  for (const [name, param] of Object.entries(params)) values[name] = value(param as Param);
  return String(
    template(id, known?.english ?? ENGLISH).format(new Proxy(values, wordsOf(known?.forms ?? {}))),
  );
}

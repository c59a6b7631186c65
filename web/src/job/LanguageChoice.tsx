import { LANGUAGES, languageNow, setLanguage } from "../messages/catalogue";
import { t } from "../messages/text";

const NAMES: Record<string, string> = { de: "Deutsch", en: "English" };

/** The language of the interface. The page is loaded anew in it; what is not saved yet is kept as a draft meanwhile. */
export function LanguageChoice() {
  return (
    <select
      aria-label={t("web.shell.language")}
      title={t("web.shell.language")}
      className="rounded-md border border-line bg-sheet px-1 py-0.5 text-[12.5px]"
      value={languageNow()}
      onChange={(changed) => {
        setLanguage(changed.target.value);
        globalThis.location.reload();
      }}
    >
      {LANGUAGES.map((name) => (
        <option key={name} value={name} lang={name} aria-label={NAMES[name]}>
          {name.toUpperCase()}
        </option>
      ))}
    </select>
  );
}

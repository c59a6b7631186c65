import { LANGUAGES, languageNow, setLanguage } from "../messages/catalogue";
import { t } from "../messages/text";

/** The language of the interface. The page is loaded again in it; what is not saved yet is kept as a draft until then. */
export function LanguageChoice() {
  return (
    <label title={t("web.shell.language")} className="max-sm:-order-1 max-sm:ml-auto">
      <span className="sr-only">{t("web.shell.language")}</span>
      <select
        className="h-5 rounded-md border border-line bg-sheet px-1 text-[12px]"
        value={languageNow()}
        onChange={(changed) => {
          setLanguage(changed.target.value);
          globalThis.location.reload();
        }}
      >
        {LANGUAGES.map((name) => (
          <option key={name} value={name} lang={name}>
            {name.toUpperCase()}
          </option>
        ))}
      </select>
    </label>
  );
}

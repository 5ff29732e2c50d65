import "@fontsource-variable/atkinson-hyperlegible-next/wght.css"
import "@fontsource-variable/atkinson-hyperlegible-next/wght-italic.css"
import "@fontsource-variable/literata/wght.css"
import { speak } from "./words/language"

// Many words stand in lists that are made once: the language is settled before anything that has words is loaded.
void speak(document.documentElement.lang).then(() => import("./Root"))

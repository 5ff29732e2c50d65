/** What runs in Node.js by itself speaks English; imported before everything that has words. */
import { i18n } from "@lingui/core"
import { messages } from "../src/words/en.po"

i18n.loadAndActivate({ locale: "en", locales: "en-GB", messages })

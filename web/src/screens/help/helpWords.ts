/** The help, for somebody who was shown Still Page once and comes back weeks later. */

import { t } from "@lingui/core/macro"

export interface HelpPart {
  title: string
  steps?: readonly string[]
  things?: readonly [string, string][]
}

export const HELP: readonly HelpPart[] = [
  {
    title: t`First steps`,
    steps: [
      t`Open a page from the Contents. The white sheet in the middle is the page as readers see it: click into it and write.`,
      t`What you write is saved by itself. Readers see nothing of it until you press Publish in the line at the bottom.`,
      t`To make a line a heading, put the caret into it and press a number of the ladder, the row of levels above the sheet. 2 is a main heading, 3 stands below a 2.`,
      t`For a list, press “bulleted” or “numbered”, or type a hyphen and a space at the start of a line.`,
      t`To bring in a picture, drop the file onto the sheet, or type a word of its name into the field of the Shelf at the right. Then say in a sentence what it shows: its alt text.`,
      t`To make a link, select its words and press “link”. Type a word of the page it leads to, or paste an address.`,
      t`Whatever you select on the sheet, the Shelf shows what can be done to it.`,
      t`Anything can be undone: press “undo”, as often as you like. Versions keep the texts that a page has had.`,
      t`The Notes at the left say what somebody could stumble over, and mend much of it at a press.`,
    ],
  },
  {
    title: t`Everything by its name`,
    steps: [
      t`Ctrl+Enter (on a Mac Cmd+Enter) goes from the text to the field of the Shelf. Type what you want to do: “level 2”, “numbered”, “publish”, “find”. Enter does it and brings you back.`,
      t`F6 goes from one part of the screen to the next, Shift+F6 to the one before. Escape goes back to the text.`,
      t`Ctrl+F finds words on the page, and replaces them.`,
      t`The list of keys says which others there are. Each can be changed or switched off.`,
    ],
  },
  {
    title: t`Pages and their places`,
    steps: [
      t`In the Contents, go to a page with the arrow keys, or press beside its name: what can be done to it stands at the right.`,
      t`“New page under this” and “New page after this” ask for a title; a line shows where the page will stand.`,
      t`Drag a page, or press “Move” and use the arrow keys. Read what follows, then press “Put it there”.`,
      t`Space chooses a page, Shift with the arrow keys chooses several. Delete puts them into the bin, from which they come back.`,
      t`Ctrl+Z takes back what was done last, whatever it was.`,
      t`When a live page gets another address, its readers are led on from the earlier one by themselves.`,
    ],
  },
  {
    title: t`What each thing is`,
    things: [
      [t`Contents`, t`All pages of a site, as in a book.`],
      [t`Sheet`, t`The page itself, in the design of its site.`],
      [t`Rule`, t`The line above the sheet: what the text at the caret is.`],
      [t`Ladder`, t`The levels on the rule, from running text to heading 6.`],
      [t`Outline`, t`The headings in order, at the left. Whole sections are moved there.`],
      [t`Notes`, t`What the page check found, and how to mend it.`],
      [t`Listening`, t`The page as a screen reader says it, line by line.`],
      [
        t`Shelf`,
        t`At the right: all that can be brought in or done, and the particulars of what is selected.`,
      ],
      [t`Foot`, t`At the bottom: whether it is saved, what readers see, and Publish.`],
      [t`Working copy`, t`The text that you write. It is saved by itself.`],
      [t`Live copy`, t`The text that readers see. It changes when somebody publishes.`],
      [t`Media library`, t`Every picture and document, with where each is used.`],
      [t`Alt text`, t`What a picture says, for who cannot see it.`],
      [t`Caption`, t`Words below a picture, for everybody.`],
    ],
  },
  {
    title: t`Coming back after a while`,
    steps: [
      t`Open the page and look at the foot: it says whether readers see what you see.`,
      t`“Versions” shows what the page said before, and puts it back if you want.`,
      t`“Find and replace” changes a name or an address in every place of a page at once.`,
      t`In the library, “Without alt text” under Show lists the pictures that still say nothing to some readers.`,
    ],
  },
]

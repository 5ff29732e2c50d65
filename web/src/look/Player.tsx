import { chakra } from "@chakra-ui/react"
import { memo, type Ref } from "react"
import type { ItemOut } from "../api/client"
import { FIRST_STILL } from "../document/films"

interface PlayerProps {
  item: ItemOut
  label?: string
  /** How high a film is at most. */
  most: string
  /** Whether its captions come along; whoever writes them shows their own. */
  captioned?: boolean
  of?: Ref<HTMLVideoElement & HTMLAudioElement>
}

/** A film or a sound, as readers can play it. */
export const Player = memo(function Player({ item, label, most, captioned = true, of }: PlayerProps) {
  const { sources = [], tracks = [] } = item.film ?? {}
  const cover = item.files.filter(({ cut }) => cut === FIRST_STILL).at(-1)
  const said = { controls: true, preload: "metadata", "aria-label": label ?? item.title, ref: of } as const
  const inside = (
    <>
      {sources.map(({ address, mime }) => (
        <source key={address} src={address} type={mime} />
      ))}
      {captioned &&
        tracks.map((each) => (
          <track
            key={each.address}
            kind={each.sort}
            srcLang={each.language}
            label={each.name}
            src={each.address}
          />
        ))}
    </>
  )
  return item.kind === "film" ? (
    <chakra.video {...said} key={item.id} poster={cover?.address} maxH={most} w="full" bg="ink">
      {inside}
    </chakra.video>
  ) : (
    <chakra.audio {...said} key={item.id} w="full">
      {inside}
    </chakra.audio>
  )
})

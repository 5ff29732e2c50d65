/** How the navigation will look at three widths, in the theme's own type, and whether it fits on one line. */
import { Box, chakra, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useEffect, useRef, useState } from "react"

const WIDTHS = [
  [1280, t`On a desktop`],
  [820, t`On a tablet`],
  [390, t`On a phone`],
] as const
const SHOWN = 640

/** `stamp` tells one state of the tree from another. */
export function NavigationBar({ site, stamp }: { site: number; stamp: string }) {
  return (
    <Stack gap="4" mb="4">
      <Text fontSize="sm" color="quiet">
        <Trans>
          As it will be once every page in it is published. Pages that are not live yet stand in it too.
        </Trans>
      </Text>
      {WIDTHS.map(([width, name]) => (
        <Bar key={width} site={site} width={width} name={name} stamp={stamp} />
      ))}
    </Stack>
  )
}

interface BarProps {
  site: number
  width: number
  name: string
  stamp: string
}

function Bar({ site, width, name, stamp }: BarProps) {
  const frame = useRef<HTMLIFrameElement>(null)
  const [measured, setMeasured] = useState<{ lines: number; height: number } | null>(null)
  const scale = Math.min(1, SHOWN / width)
  const measure = () => {
    const page = frame.current?.contentDocument
    if (!page) return
    const look = () => setMeasured(linesOf(page))
    look()
    // The theme's faces come after the first drawing.
    void page.fonts.ready.then(look)
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is in the frame is another when the tree is
  useEffect(() => setMeasured(null), [stamp])
  const told = !measured
    ? ""
    : measured.lines === 0
      ? t`Nothing stands in it.`
      : measured.lines === 1
        ? t`fits on one line`
        : t`breaks to ${plural(measured.lines, { one: "# line", other: "# lines" })}`
  return (
    <section aria-label={name}>
      <HStack gap="2" fontSize="sm" mb="1">
        <Text fontWeight="600">{t`${name}, ${width} px:`}</Text>
        <Text role="status" color={measured && measured.lines > 1 ? "waits" : "quiet"}>
          {told}
        </Text>
      </HStack>
      <Box
        overflow="hidden"
        borderWidth="1px"
        borderColor="edge"
        maxW="full"
        style={{ width: width * scale + 2, height: Math.min(400, (measured?.height ?? 60) * scale) + 2 }}
      >
        <chakra.iframe
          key={stamp}
          ref={frame}
          title={t`The navigation, ${width} px wide`}
          src={`/sheet/navigation/${site}`}
          onLoad={measure}
          tabIndex={-1}
          border="0"
          transformOrigin="0 0"
          style={{ width, height: measured?.height ?? 60, transform: `scale(${scale})` }}
        />
      </Box>
    </section>
  )
}

/** Says without being asked when the navigation no longer fits on one line of a desktop. */
export function NavigationTold({ site, stamp }: { site: number; stamp: string }) {
  const frame = useRef<HTMLIFrameElement>(null)
  const [lines, setLines] = useState(0)
  const width = WIDTHS[0][0]
  const measure = () => {
    const page = frame.current?.contentDocument
    if (!page) return
    const look = () => setLines(linesOf(page).lines)
    look()
    void page.fonts.ready.then(look)
  }
  return (
    <>
      <Text role="status" fontSize="sm" color="waits">
        {lines > 1
          ? t`The navigation breaks to ${plural(lines, { one: "# line", other: "# lines" })} at ${width} px: shorter names, or fewer pages in it, keep it on one.`
          : ""}
      </Text>
      <chakra.iframe
        key={stamp}
        ref={frame}
        title={t`The navigation, measured`}
        src={`/sheet/navigation/${site}`}
        onLoad={measure}
        aria-hidden
        tabIndex={-1}
        position="absolute"
        visibility="hidden"
        pointerEvents="none"
        h="1px"
        style={{ width }}
      />
    </>
  )
}

/** On how many lines the entries of the first level stand, and how high the head of the page is. */
function linesOf(page: Document): { lines: number; height: number } {
  const entries = [...page.querySelectorAll<HTMLElement>(".site-nav > ul > li > a")]
  const tops = new Set(entries.map((each) => Math.round(each.getBoundingClientRect().top)))
  const head = page.querySelector<HTMLElement>(".site-head")
  return { lines: tops.size, height: Math.ceil(head?.getBoundingClientRect().height ?? 60) }
}

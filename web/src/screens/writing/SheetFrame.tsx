import { Box, type BoxProps, Button, chakra, HStack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from "react"

export type Width = "fit" | 390 | 820 | 1280

/** How the sheet is seen: by most, with blurred sight, or without colours. */
export type Sight = "plain" | "blurred" | "grey"
const FILTERS = { plain: undefined, blurred: "blur(2px)", grey: "grayscale(1)" }

interface Props {
  pageId: number
  title: string
  width: Width
  sight: Sight
  /** A version that is read in the sheet's place; the sheet waits below. */
  reading: { id: number; name: string } | null
  onBack(): void
  /** Called when the page stands in its frame; returns what to do when it goes. */
  mount(frame: HTMLIFrameElement): () => void
  display: BoxProps["display"]
  /** Whether something else stands over the sheet: the page's source. */
  covered: boolean
  children: ReactNode
}

/** The sheet in its frame, at a reader's width; where that does not fit, the whole is shown smaller. */
export function SheetFrame(props: Props) {
  const { pageId, title, width, sight, reading, onBack, mount, display, covered, children } = props
  const around = useRef<HTMLDivElement>(null)
  const frame = useRef<HTMLIFrameElement>(null)
  const [space, setSpace] = useState({ width: 0, height: 0 })
  const [problem, setProblem] = useState("")

  useLayoutEffect(() => {
    const box = around.current
    if (!box) return
    const observer = new ResizeObserver(() => setSpace({ width: box.clientWidth, height: box.clientHeight }))
    observer.observe(box)
    return () => observer.disconnect()
  }, [])

  const mounting = useRef(mount)
  mounting.current = mount
  useEffect(() => {
    const element = frame.current
    if (!element) return
    let leave: (() => void) | undefined
    const ready = () => {
      leave?.()
      leave = undefined
      if (element.contentDocument?.querySelector(".regions")) leave = mounting.current(element)
      else setProblem(t`The page cannot be shown. Reload to try again.`)
    }
    element.addEventListener("load", ready)
    element.src = `/sheet/${pageId}`
    return () => {
      element.removeEventListener("load", ready)
      leave?.()
    }
  }, [pageId])

  const wanted = width === "fit" ? space.width : width
  const scale = wanted > 0 ? Math.min(1, space.width / wanted) : 1
  return (
    <Box
      as="section"
      aria-label={t`Sheet`}
      data-part="text"
      ref={around}
      display={display}
      position="relative"
      overflow="hidden"
      bg="ground"
      minH="0"
      minW="0"
      flexDirection="column"
    >
      {problem && (
        <chakra.p role="alert" p="6">
          {problem}
        </chakra.p>
      )}
      <chakra.iframe
        ref={frame}
        title={t`The sheet: ${title}`}
        data-scale={scale}
        position="absolute"
        top="0"
        left="50%"
        border="0"
        bg="white"
        transformOrigin="top center"
        style={{
          width: wanted || "100%",
          height: space.height / scale || "100%",
          transform: `translateX(-50%) scale(${scale})`,
          filter: FILTERS[sight],
        }}
        borderXWidth={width === "fit" ? "0" : "1px"}
        borderColor="line"
        inert={reading !== null || covered}
      />
      {children}
      {reading !== null && (
        <Box position="absolute" inset="0" display="flex" flexDirection="column" bg="paper">
          <HStack px="4" py="2" gap="3" bg="lit" borderBottomWidth="1px" borderColor="line" fontSize="sm">
            <Text role="status" flex="1">
              <Trans>You are reading this version: {reading.name}. Your own text waits below.</Trans>
            </Text>
            <Button size="xs" variant="outline" onClick={onBack}>
              <Trans>Back to my text</Trans>
            </Button>
          </HStack>
          <chakra.iframe
            title={t`The version`}
            src={`/version/${pageId}/${reading.id}`}
            flex="1"
            w="full"
            border="0"
            bg="white"
          />
        </Box>
      )}
      {scale < 1 && (
        <chakra.span
          position="absolute"
          bottom="2"
          right="4"
          px="2"
          bg="paper"
          color="quiet"
          fontSize="xs"
          borderWidth="1px"
          borderColor="line"
        >
          <Trans>shown at {Math.round(scale * 100)} %</Trans>
        </chakra.span>
      )}
    </Box>
  )
}

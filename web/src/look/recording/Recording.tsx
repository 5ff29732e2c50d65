/** Recording a sound or a film, hearing it again, taking it again, and adding it to the library. */
import { Box, Button, chakra, Field, HStack, Input, Stack, Text } from "@chakra-ui/react"
import { t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useCallback, useEffect, useRef, useState } from "react"
import { say } from "../heard"
import { useSession } from "../useSession"
import { clock } from "../words"
import { fileOf, left, letGo, mark, type Recorded } from "./kept"
import { useRecorder } from "./useRecorder"

interface Props {
  /** Put a file into the library; whether it is there. */
  onAdd(file: File): Promise<boolean>
}

export function Recording({ onAdd }: Props) {
  const [kept, setKept] = useState<Recorded[]>([])
  const person = useSession().data?.person?.username ?? ""
  const look = useCallback(() => void left(person).then(setKept, () => setKept([])), [person])
  useEffect(look, [look])
  const recorder = useRecorder(person, (recorded) => {
    say(t`Recorded. You can listen to it now.`)
    setKept((before) => [recorded, ...before.filter(({ id }) => id !== recorded.id)])
  })
  const { state, problem, lasts, level, stream } = recorder
  const running = state === "recording" || state === "paused"
  return (
    <Stack as="section" aria-label={t`Record`} gap="2">
      {!running && (
        <HStack gap="1" flexWrap="wrap">
          <Button
            size="xs"
            variant="outline"
            disabled={state !== "off"}
            onClick={() => recorder.start("sound")}
          >
            <Trans>Record sound</Trans>
          </Button>
          <Button
            size="xs"
            variant="outline"
            disabled={state !== "off"}
            onClick={() => recorder.start("film")}
          >
            <Trans>Record film</Trans>
          </Button>
        </HStack>
      )}
      {running && (
        <Stack gap="2">
          {stream && stream.getVideoTracks().length > 0 && <Seen stream={stream} />}
          <HStack gap="2">
            <Text role="status" fontSize="sm" fontWeight="600">
              {state === "paused" ? t`Paused` : t`Recording`}
            </Text>
            <Text fontSize="sm" aria-hidden="true">
              {clock(lasts)}
            </Text>
          </HStack>
          <Box
            role="meter"
            aria-label={t`How loud it is`}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(level * 100)}
            h="3"
            borderWidth="1px"
            borderColor="edge"
            bg="paper"
          >
            <Box h="full" bg={level > 0.95 ? "wrong" : "press.solid"} style={{ width: `${level * 100}%` }} />
          </Box>
          <HStack gap="1">
            <Button size="xs" onClick={recorder.stop}>
              <Trans>Stop recording</Trans>
            </Button>
            {state === "paused" ? (
              <Button size="xs" variant="outline" onClick={recorder.goOn}>
                <Trans>Go on</Trans>
              </Button>
            ) : (
              <Button size="xs" variant="outline" onClick={recorder.pause}>
                <Trans>Pause</Trans>
              </Button>
            )}
          </HStack>
        </Stack>
      )}
      <Text role="alert" fontSize="sm" color="wrong">
        {problem}
      </Text>
      {kept.map((recorded) => (
        <Taken
          key={recorded.id}
          recorded={recorded}
          busy={running}
          onAdd={onAdd}
          onAgain={() => recorder.start(recorded.kind)}
          onGone={look}
        />
      ))}
    </Stack>
  )
}

/** What the camera sees. */
function Seen({ stream }: { stream: MediaStream }) {
  const video = useRef<HTMLVideoElement>(null)
  useEffect(() => {
    if (video.current) video.current.srcObject = stream
  }, [stream])
  return (
    <chakra.video
      ref={video}
      autoPlay
      muted
      playsInline
      aria-label={t`What the camera sees`}
      w="full"
      bg="ink"
    />
  )
}

interface TakenProps {
  recorded: Recorded
  busy: boolean
  onAdd(file: File): Promise<boolean>
  onAgain(): void
  onGone(): void
}

/** A recording that is not in the library yet. Who lets it go can take it back for as long as it stands here. */
function Taken({ recorded, busy, onAdd, onAgain, onGone }: TakenProps) {
  const [name, setName] = useState(recorded.name)
  const [address, setAddress] = useState("")
  const [sending, setSending] = useState(false)
  const [gone, setGone] = useState(false)
  const { kind } = recorded
  useEffect(() => {
    let made = ""
    let left = false
    void fileOf(recorded).then((file) => {
      if (!file || left) return
      made = URL.createObjectURL(file)
      setAddress(made)
    })
    return () => {
      left = true
      URL.revokeObjectURL(made)
    }
  }, [recorded])
  const letGoOf = (wanted: boolean) => {
    setGone(wanted)
    void mark(recorded, wanted)
  }
  const add = async () => {
    const file = await fileOf(recorded, name.trim() || recorded.name)
    if (!file) return
    setSending(true)
    const there = await onAdd(file)
    setSending(false)
    if (!there) return
    await letGo(recorded.id)
    onGone()
  }
  if (gone)
    return (
      <HStack fontSize="sm" role="status">
        <Text>
          <Trans>“{recorded.name}” is let go.</Trans>
        </Text>
        <Button size="xs" variant="outline" onClick={() => letGoOf(false)}>
          <Trans>Take it back</Trans>
        </Button>
      </HStack>
    )
  const said = { controls: true, src: address, "aria-label": recorded.name, w: "full" } as const
  return (
    <Stack as="section" aria-label={recorded.name} gap="1" borderTopWidth="1px" borderColor="line" pt="2">
      {address && (kind === "film" ? <chakra.video {...said} bg="ink" /> : <chakra.audio {...said} />)}
      <Field.Root>
        <Field.Label>
          <Trans>Title</Trans>
        </Field.Label>
        <Input
          size="sm"
          bg="paper"
          borderColor="edge"
          maxLength={180}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Field.HelperText color="quiet">
          <Trans>It is kept in this browser until it is safely in the library.</Trans>
        </Field.HelperText>
      </Field.Root>
      <HStack gap="1" flexWrap="wrap">
        <Button size="xs" disabled={sending} onClick={() => void add()}>
          <Trans>Add to the library</Trans>
        </Button>
        <Button
          size="xs"
          variant="outline"
          disabled={sending || busy}
          onClick={() => {
            letGoOf(true)
            onAgain()
          }}
        >
          <Trans>Record it again</Trans>
        </Button>
        <Button size="xs" variant="ghost" disabled={sending} onClick={() => letGoOf(true)}>
          <Trans>Let it go</Trans>
        </Button>
      </HStack>
    </Stack>
  )
}

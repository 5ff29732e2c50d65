/** How captions come in and go out as a whole: files, a draft from plain words, a transcript. */
import { Button, chakra, HStack, Stack, Text, Textarea } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useRef, useState } from "react"
import { ask, type CaptionsBrief, type Cue, client, readCaptions } from "../../api/client"
import { Folded } from "../../look/Folded"

interface Props {
  brief: CaptionsBrief
  cues: Cue[]
  editable: boolean
  /** All cues are others now; they can be had back by undo. */
  onCues(cues: Cue[], drafted: boolean): void
  flush(): Promise<boolean>
}

export function Bringing({ brief, cues, editable, onCues, flush }: Props) {
  const choose = useRef<HTMLInputElement>(null)
  const [told, setTold] = useState<string[]>([])
  const [words, setWords] = useState("")
  const [transcript, setTranscript] = useState<string[] | null>(null)
  const params = { path: { captions_id: brief.id } }
  const tell = (error: unknown) => setTold([(error as Error).message])

  const bring = async (file: File) => {
    try {
      const found = await readCaptions(file)
      onCues(found.cues, false)
      const other = found.language && found.language !== brief.language
      setTold([
        plural(found.cues.length, {
          one: `# cue came in from “${file.name}”; Undo takes it back.`,
          other: `# cues came in from “${file.name}”; Undo takes them back.`,
        }),
        ...(other ? [t`The file says that its language is ${found.language}.`] : []),
        ...found.told,
      ])
    } catch (error) {
      tell(error)
    }
  }
  const draft = async () => {
    try {
      const found = await ask(client.POST("/api/captions/{captions_id}/draft", { params, body: { words } }))
      onCues(found.cues, true)
      setTold([
        t`${found.cues.length} cues were drafted. Play the film along with them and correct their times.`,
      ])
    } catch (error) {
      tell(error)
    }
  }
  const toTranscript = async () => {
    try {
      const found = await ask(client.POST("/api/cues/transcript", { body: { cues } }))
      setTranscript(found.paragraphs)
    } catch (error) {
      tell(error)
    }
  }
  const takeAway = async (ending: string) => {
    if (!(await flush())) return
    location.assign(`/api/captions/${brief.id}/file.${ending}`)
  }
  return (
    <Stack gap="2">
      <HStack gap="2" flexWrap="wrap" align="flex-start">
        {editable && (
          <>
            <Button size="xs" variant="outline" onClick={() => choose.current?.click()}>
              <Trans>Bring in a file (WebVTT, SRT)</Trans>
            </Button>
            <input
              ref={choose}
              type="file"
              hidden
              accept=".vtt,.srt,text/vtt"
              aria-label={t`A file of captions`}
              onChange={(event) => {
                const file = event.target.files?.[0]
                if (file) void bring(file)
                event.target.value = ""
              }}
            />
          </>
        )}
        {cues.length > 0 && (
          <>
            <Button size="xs" variant="outline" onClick={() => void takeAway("vtt")}>
              <Trans>Take away as WebVTT</Trans>
            </Button>
            <Button size="xs" variant="outline" onClick={() => void takeAway("srt")}>
              <Trans>as SRT</Trans>
            </Button>
          </>
        )}
      </HStack>
      {editable && (
        <Folded label={t`Draft from plain words`} open={cues.length === 0}>
          <Textarea
            aria-label={t`What is said in the film`}
            placeholder={t`What is said, as plain text. A name and a colon begin somebody’s words.`}
            _placeholder={{ color: "quiet" }}
            rows={5}
            bg="paper"
            borderColor="edge"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <Button
            size="xs"
            variant="outline"
            alignSelf="flex-start"
            disabled={!words.trim()}
            onClick={() => void draft()}
          >
            <Trans>Spread these words over the film</Trans>
          </Button>
        </Folded>
      )}
      {cues.length > 0 && (
        <Button size="xs" variant="outline" alignSelf="flex-start" onClick={() => void toTranscript()}>
          <Trans>Show the transcript</Trans>
        </Button>
      )}
      {transcript && (
        <Stack
          as="section"
          aria-label={t`Transcript`}
          gap="2"
          maxH="14rem"
          overflowY="auto"
          tabIndex={0}
          fontSize="sm"
        >
          {transcript.map((paragraph) => (
            <Text key={paragraph}>{paragraph}</Text>
          ))}
        </Stack>
      )}
      <chakra.div role="status" fontSize="sm">
        {told.map((sentence) => (
          <Text key={sentence}>{sentence}</Text>
        ))}
      </chakra.div>
    </Stack>
  )
}

/** The hosts that films may be shown from: which there are, what is known of each, and trying one. */
import { Button, chakra, Heading, HStack, Stack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { Trans } from "@lingui/react/macro"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { answers, forget } from "../../api/answers"
import { ask, client, type HostIn, type HostOut } from "../../api/client"
import { NotKept } from "../../look/NotKept"
import { Sentence } from "../../look/Sentence"
import { Top } from "../../look/Top"
import { HostForm } from "./HostForm"

const NEW: HostIn = { name: "", addresses: [], endpoint: "", frames: "", options: {} }

export function Hosts() {
  const queries = useQueryClient()
  const [open, setOpen] = useState<ReadonlySet<number | "new">>(new Set())
  const turn = (form: number | "new", isOpen: boolean) =>
    setOpen((before) => {
      const after = new Set(before)
      if (isOpen) after.add(form)
      else after.delete(form)
      return after
    })
  const [told, setTold] = useState("")
  const found = useQuery({ queryKey: answers.hosts, queryFn: () => ask(client.GET("/api/hosts")) })
  useEffect(() => {
    document.title = t`Hosts of films and posts, Still Page`
  }, [])
  if (found.error)
    return (
      <Sentence
        title={t`The hosts cannot be shown`}
        text={found.error.message}
        again={() => found.refetch()}
      />
    )
  const allowed = found.data?.filter((host) => !host.removed) ?? []
  const gone = found.data?.filter((host) => host.removed) ?? []
  const done = async (words: string) => {
    setTold(words)
    await forget(queries, [answers.hosts])
  }
  const keep = async (given: HostIn, id: number | null) => {
    const params = { path: { host_id: id ?? 0 } }
    if (id === null) await ask(client.POST("/api/hosts", { body: given }))
    else await ask(client.PUT("/api/hosts/{host_id}", { params, body: given }))
    turn(id ?? "new", false)
    await done(t`“${given.name.trim()}” is kept; pages that show films from there follow.`)
  }
  const remove = async (host: HostOut) => {
    try {
      await ask(client.DELETE("/api/hosts/{host_id}", { params: { path: { host_id: host.id } } }))
      await done(t`Nothing is shown from “${host.name}” any more; readers get links to its films.`)
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  const bringBack = async (host: HostOut) => {
    try {
      await ask(client.POST("/api/hosts/{host_id}/back", { params: { path: { host_id: host.id } } }))
      await done(t`“${host.name}” is back.`)
    } catch (error) {
      setTold((error as Error).message)
    }
  }
  return (
    <>
      <Top />
      <chakra.main maxW="52rem" mx="auto" px={{ base: "4", md: "8" }} py="8">
        <Heading as="h1" size="3xl" fontWeight="450" mb="2">
          <Trans>Hosts of films and posts</Trans>
        </Heading>
        <Text color="quiet" mb="4">
          <Trans>
            Films and posts that stand at one of these hosts can be put on pages by their address. A reader
            sees a cover or words of ours; nothing is asked of the host before the reader presses it.
          </Trans>
        </Text>
        <HStack minH="9" mb="2" gap="3" flexWrap="wrap">
          <Text role="status" fontSize="sm">
            {told}
          </Text>
        </HStack>
        <chakra.ul listStyleType="none" aria-label={t`Hosts`}>
          {allowed.map((host) => (
            <chakra.li key={host.id} py="4" borderTopWidth="1px" borderColor="line">
              {open.has(host.id) ? (
                <HostForm
                  given={host}
                  onKeep={(given) => keep(given, host.id)}
                  onCancel={() => turn(host.id, false)}
                />
              ) : (
                <Line host={host} onOpen={() => turn(host.id, true)} onRemove={() => void remove(host)} />
              )}
            </chakra.li>
          ))}
        </chakra.ul>
        {found.data && allowed.length === 0 && (
          <Text py="4" borderTopWidth="1px" borderColor="line">
            <Trans>There is none yet: films elsewhere can be linked to, and not shown.</Trans>
          </Text>
        )}
        <chakra.section py="4" borderTopWidth="1px" borderColor="line" aria-label={t`Another host`}>
          {open.has("new") ? (
            <HostForm given={NEW} onKeep={(given) => keep(given, null)} onCancel={() => turn("new", false)} />
          ) : (
            <Button size="sm" variant="outline" onClick={() => turn("new", true)}>
              <Trans>Allow another host</Trans>
            </Button>
          )}
        </chakra.section>
        {gone.length > 0 && (
          <chakra.section pt="6" aria-labelledby="gone">
            <Heading as="h2" id="gone" size="md" fontWeight="500" mb="2">
              <Trans>Taken away</Trans>
            </Heading>
            <chakra.ul listStyleType="none" aria-labelledby="gone">
              {gone.map((host) => (
                <chakra.li key={host.id} py="2" borderTopWidth="1px" borderColor="line">
                  <HStack justifyContent="space-between" gap="4" flexWrap="wrap">
                    <Text fontSize="sm">{host.name}</Text>
                    <Button
                      size="xs"
                      variant="outline"
                      aria-label={t`Bring ${host.name} back`}
                      onClick={() => void bringBack(host)}
                    >
                      <Trans>Bring it back</Trans>
                    </Button>
                  </HStack>
                </chakra.li>
              ))}
            </chakra.ul>
          </chakra.section>
        )}
      </chakra.main>
      <NotKept />
    </>
  )
}

interface LineProps {
  host: HostOut
  onOpen(): void
  onRemove(): void
}

/** A host as sentences. */
function Line({ host, onOpen, onRemove }: LineProps) {
  const count = Object.keys(host.options).length
  return (
    <HStack justifyContent="space-between" alignItems="flex-start" gap="4" flexWrap="wrap">
      <Stack gap="1" minW="0" flex="1">
        <Heading as="h2" size="lg" fontWeight="500">
          {host.name}
        </Heading>
        <Text fontSize="sm" wordBreak="break-all">
          <Trans>
            Films at {host.addresses.join(", ")}, asked for at {host.endpoint}, played from {host.frames}.
          </Trans>
        </Text>
        <Text fontSize="sm" color="quiet">
          {host.films === 0
            ? t`The library has no film from there yet.`
            : t`The library has ${plural(host.films, { one: "# film", other: "# films" })} from there.`}{" "}
          {count === 0
            ? t`Its player is told nothing.`
            : t`Its player honours ${plural(count, { one: "# option", other: "# options" })}.`}
        </Text>
      </Stack>
      <HStack gap="2">
        <Button size="xs" variant="outline" aria-label={t`Change ${host.name}, or try it`} onClick={onOpen}>
          <Trans>Change or try</Trans>
        </Button>
        <Button size="xs" variant="outline" aria-label={t`Take ${host.name} away`} onClick={onRemove}>
          <Trans>Take away</Trans>
        </Button>
      </HStack>
    </HStack>
  )
}

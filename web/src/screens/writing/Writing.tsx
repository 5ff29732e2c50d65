/** The writing view of a page: asks for it, and looks whether something was left behind in this browser. */
import { t } from "@lingui/core/macro"
import { useQuery, useQueryClient } from "@tanstack/react-query"
import { useEffect, useState } from "react"
import { useParams } from "react-router"
import { answers, pageAsked } from "../../api/answers"
import type { PageOut } from "../../api/client"
import { Journal, leftBehind } from "../../editor/journal"
import type { Beginning } from "../../editor/saver"
import { type PageText, toEditor } from "../../editor/schema"
import { Sentence } from "../../look/Sentence"
import type { Limits } from "../../look/useSending"
import { DeskScreen } from "./DeskScreen"

export function Writing({ limits, person }: { limits: Limits; person: string }) {
  const pageId = Number(useParams().pageId)
  const page = useQuery({
    ...pageAsked(pageId),
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  })
  // Whoever comes back finds the page as it is then, not as it was fetched before.
  const queries = useQueryClient()
  useEffect(() => () => queries.removeQueries({ queryKey: answers.page(pageId) }), [queries, pageId])
  if (page.error)
    return (
      <Sentence
        title={t`This page cannot be opened`}
        text={page.error.message}
        again={() => page.refetch()}
      />
    )
  return page.data ? <Prepared key={pageId} page={page.data} limits={limits} person={person} /> : null
}

/** Looks first whether something was left behind in this browser. */
function Prepared({ page, limits, person }: { page: PageOut; limits: Limits; person: string }) {
  const [beginning, setBeginning] = useState<Beginning | null>(null)
  useEffect(() => {
    let current = true
    const prepare = async () => {
      const { id, site, working_copy: copy, clashes } = page
      const left = site.may_write
        ? await leftBehind(id, person, {
            base: copy.revision,
            saved: toEditor(copy as PageText),
          })
        : null
      const journal = site.may_write ? await Journal.open(id, person) : null
      if (current) setBeginning({ copy, left, journal, person, clashes })
      else await journal?.end(true)
    }
    void prepare()
    return () => {
      current = false
    }
  }, [page, person])
  return beginning && <DeskScreen page={page} beginning={beginning} limits={limits} />
}

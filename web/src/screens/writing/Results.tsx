import { chakra, HStack, Text } from "@chakra-ui/react"
import { plural, t } from "@lingui/core/macro"
import { type ReactNode, useEffect, useRef } from "react"
import type { ItemOut } from "../../api/client"
import { Gauge, STATE_WORDS } from "../../look/Gauge"
import { clock } from "../../look/words"
import { isCode, type Offer } from "./offers"

/** What an item is that becomes a link. */
const ITEMS: Record<ItemOut["kind"], string> = {
  picture: t`a picture`,
  document: t`a document`,
  film: t`a film`,
  sound: t`a sound`,
  hosted: t`a film elsewhere`,
  animation: t`an animation`,
  post: t`a post`,
}

/** What is made of that which was taken along from the library. */
const PICKED = {
  downloads: (count: number) =>
    plural(count, { one: "# item: a list of downloads", other: "# items: a list of downloads" }),
  gallery: (count: number) => plural(count, { one: "# item: a gallery", other: "# items: a gallery" }),
  slideshow: (count: number) => plural(count, { one: "# item: a slideshow", other: "# items: a slideshow" }),
}

interface Props {
  offers: Offer[]
  active: number
  query: string
  problem: string
  /** Whether this is the answer to the words that stand in the field. */
  settled: boolean
  onTake(offer: Offer): void
  bring: boolean
}

/** What was found for the words in the Shelf's field. The field keeps the focus; the arrows move `active`. */
export function Results({ offers, active, query, problem, settled, onTake, bring }: Props) {
  const list = useRef<HTMLDivElement>(null)
  useEffect(() => {
    list.current?.querySelector(`#offer-${active}`)?.scrollIntoView({ block: "nearest" })
  }, [active])
  return (
    <>
      <chakra.div id="shelf-results" role="listbox" aria-label={t`What was found`} ref={list}>
        {offers.map((offer, index) => (
          <chakra.div
            key={keyOf(offer)}
            id={`offer-${index}`}
            role="option"
            aria-selected={index === active}
            px="2"
            py="1.5"
            cursor="pointer"
            borderLeft="3px solid"
            borderColor={index === active ? "press.solid" : "transparent"}
            bg={index === active ? "lit" : undefined}
            _hover={{ bg: "press.muted" }}
            onMouseDown={(event) => event.preventDefault()}
            onClick={() => onTake(offer)}
          >
            <OfferLine offer={offer} />
          </chakra.div>
        ))}
      </chakra.div>
      <Text role="status" srOnly>
        {settled && offers.length > 0 ? t`${offers.length} found` : ""}
      </Text>
      <Text role="status" fontSize="sm" color={problem ? "wrong" : "quiet"}>
        {problem || (offers.length === 0 && settled ? nothing(query, bring) : "")}
      </Text>
    </>
  )
}

export const nothingFound = (query: string) => t`Nothing holds the words “${query.trim()}”.`

const nothing = (query: string, bring: boolean) => {
  if (query.trim()) return nothingFound(query)
  return bring ? t`The media library is empty.` : t`Type words of a page's title, or an address.`
}

const keyOf = (offer: Offer) => {
  switch (offer.kind) {
    case "picture":
    case "film":
    case "sound":
    case "hosted":
    case "animation":
    case "post":
    case "paper":
      return `${offer.kind} ${offer.item.id}`
    case "picked":
      return `picked ${offer.as}`
    case "commons":
      return t`commons ${offer.picture.id}`
    case "block":
      return t`block ${offer.name}`
    case "sign":
      return t`sign ${offer.sign.text}`
    case "act":
      return t`act ${offer.act.id}`
    default:
      return `${offer.kind} ${offer.href}`
  }
}

/** A line of words with a quieter one below. */
function Two({ above, below, wrong }: { above: string; below: string; wrong?: boolean }) {
  return (
    <chakra.div minW="0">
      <Text truncate>{above}</Text>
      <Text fontSize="xs" color={wrong ? "wrong" : "quiet"} truncate>
        {below}
      </Text>
    </chakra.div>
  )
}

/** A small picture with words beside it. */
function Pictured({ src, children }: { src: string; children: ReactNode }) {
  return (
    <HStack gap="3">
      {src && <chakra.img src={src} alt="" w="16" h="11" objectFit="cover" loading="lazy" flexShrink="0" />}
      <chakra.span minW="0">{children}</chakra.span>
    </HStack>
  )
}

/** How long it is, or that it has to be made ready first. */
const playedOf = ({ lasts, problem, ready }: ItemOut) =>
  problem || (lasts ? clock(lasts) : "") || (ready ? "" : t`being made ready`)

function OfferLine({ offer }: { offer: Offer }) {
  switch (offer.kind) {
    case "picture":
      return (
        <Pictured src={offer.item.thumbnail}>
          <Two
            above={offer.item.title}
            below={offer.item.alt || (offer.item.decorative ? t`Decorative` : t`No alt text yet`)}
            wrong={!offer.item.alt && !offer.item.decorative}
          />
        </Pictured>
      )
    case "film":
    case "sound":
    case "hosted":
    case "animation":
    case "post":
      return (
        <Pictured src={offer.item.thumbnail}>
          <Two
            above={offer.item.title}
            below={`${ITEMS[offer.item.kind]}, ${offer.item.hosted?.told ?? offer.item.post?.told ?? playedOf(offer.item)}`}
          />
        </Pictured>
      )
    case "commons":
      return (
        <Pictured src={offer.picture.preview}>
          <Two
            above={offer.picture.title}
            below={t`Free to use, by ${offer.picture.author} (${offer.picture.licence})`}
          />
        </Pictured>
      )
    case "picked":
      return (
        <Two above={t`What was taken along from the library`} below={PICKED[offer.as](offer.items.length)} />
      )
    case "fetch":
      return (
        <Two
          above={
            isCode(offer.href)
              ? t`Add the film of this code`
              : t`Add the picture, film or document at this address`
          }
          below={offer.href}
        />
      )
    case "paper":
      return (
        <Pictured src={offer.item.thumbnail}>
          <Two above={offer.item.title} below={t`a document, its pages shown here`} />
        </Pictured>
      )
    case "document":
      return (
        <Two
          above={offer.item.title}
          below={[offer.name.slice(offer.item.title.length + 2, -1), ITEMS[offer.item.kind]]
            .filter(Boolean)
            .join(", ")}
        />
      )
    case "block":
      return <Two above={offer.name} below={offer.says} />
    case "act":
      return (
        <HStack justifyContent="space-between" gap="2">
          <Two above={offer.name} below={offer.possible ? t`do this` : t`not possible at the caret`} />
          <chakra.span color="quiet" fontSize="xs" flexShrink="0">
            {offer.keys}
          </chakra.span>
        </HStack>
      )
    case "sign":
      return (
        <HStack gap="3">
          <chakra.span fontSize="xl" w="10" textAlign="center" flexShrink="0">
            {offer.sign.text}
          </chakra.span>
          <Text fontSize="sm">{offer.sign.name}</Text>
        </HStack>
      )
    case "heading":
      return (
        <Two
          above={offer.name}
          below={t`heading of level ${offer.level}${offer.here ? t`, on this page` : ""}`}
        />
      )
    case "recent":
      return <Two above={offer.name} below={t`linked to lately`} />
    case "page": {
      const { page, depth } = offer
      const unpublished = page.state === "unpublished" ? `, ${STATE_WORDS.unpublished.toLowerCase()}` : ""
      return (
        <chakra.div style={{ paddingLeft: `${depth}rem` }}>
          <HStack gap="2">
            <Gauge state={page.state} />
            <Text truncate>{page.title}</Text>
          </HStack>
          <Text fontSize="xs" color="quiet" truncate>
            {page.site}, {page.path}
            {unpublished}
          </Text>
        </chakra.div>
      )
    }
    case "address":
      return <Two above={t`Link to this address`} below={offer.href} />
  }
}

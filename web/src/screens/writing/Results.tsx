import { Button, chakra, HStack, Text } from "@chakra-ui/react"
import { useEffect, useRef } from "react"
import { Gauge, STATE_WORDS } from "../../look/Gauge"
import type { Offer } from "./offers"

interface Props {
  offers: Offer[]
  active: number
  query: string
  problem: string
  onTake(offer: Offer): void
  onFiles(files: File[]): void
  withUpload: boolean
}

/** What was found for the words in the Shelf's field. The field keeps the focus; the arrows move `active`. */
export function Results({ offers, active, query, problem, onTake, onFiles, withUpload }: Props) {
  const list = useRef<HTMLDivElement>(null)
  const choose = useRef<HTMLInputElement>(null)
  useEffect(() => {
    list.current?.querySelector(`#offer-${active}`)?.scrollIntoView({ block: "nearest" })
  }, [active])
  return (
    <>
      {withUpload && (
        <>
          <Button size="sm" variant="outline" w="full" mb="3" onClick={() => choose.current?.click()}>
            Add pictures from this computer
          </Button>
          <input
            ref={choose}
            type="file"
            hidden
            multiple
            accept="image/jpeg,image/png,image/webp,image/gif"
            aria-label="Pictures from this computer"
            onChange={(event) => onFiles([...(event.target.files ?? [])])}
          />
        </>
      )}
      <chakra.div id="shelf-results" role="listbox" aria-label="What was found" ref={list}>
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
      <Text role="status" fontSize="sm" color={problem ? "wrong" : "quiet"}>
        {problem || (offers.length === 0 ? nothing(query, withUpload) : "")}
      </Text>
    </>
  )
}

const nothing = (query: string, bring: boolean) => {
  if (query.trim()) return `Nothing holds the words “${query.trim()}”.`
  return bring ? "The media library has no pictures yet." : "Type words of a page's title, or an address."
}

const keyOf = (offer: Offer) => {
  if (offer.kind === "picture") return `picture ${offer.item.id}`
  if (offer.kind === "block") return `block ${offer.type}`
  return `${offer.kind} ${offer.href}`
}

function OfferLine({ offer }: { offer: Offer }) {
  if (offer.kind === "picture") {
    const { item } = offer
    return (
      <HStack gap="3">
        <chakra.img
          src={item.thumbnail}
          alt=""
          w="16"
          h="11"
          objectFit="cover"
          loading="lazy"
          flexShrink="0"
        />
        <chakra.span minW="0">
          <Text truncate>{item.title}</Text>
          <Text fontSize="xs" color={item.alt ? "quiet" : "wrong"} truncate>
            {item.alt || "No alt text yet"}
          </Text>
        </chakra.span>
      </HStack>
    )
  }
  if (offer.kind === "block") {
    return (
      <>
        <Text>{offer.name}</Text>
        <Text fontSize="xs" color="quiet">
          {offer.says}
        </Text>
      </>
    )
  }
  if (offer.kind === "page") {
    const { page } = offer
    return (
      <>
        <HStack gap="2">
          <Gauge state={page.state} />
          <Text truncate>{page.title}</Text>
        </HStack>
        <Text fontSize="xs" color="quiet" truncate>
          {page.site}, {page.path}
          {page.state === "unpublished" && `, ${STATE_WORDS.unpublished.toLowerCase()}`}
        </Text>
      </>
    )
  }
  return (
    <>
      <Text>Link to this address</Text>
      <Text fontSize="xs" color="quiet" truncate>
        {offer.href}
      </Text>
    </>
  )
}

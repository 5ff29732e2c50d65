import { chakra } from "@chakra-ui/react"

interface ChoiceProps {
  label: string
  value: string
  options: [string, string][]
  disabled?: boolean
  onChoice(value: string): void
}

/** One of a list, in the browser's own control. */
export function Choice({ label, value, options, disabled, onChoice }: ChoiceProps) {
  return (
    <chakra.label display="block" fontSize="sm" fontWeight="600">
      {label}
      <chakra.select
        display="block"
        w="full"
        h="9"
        px="2"
        mt="1"
        bg="paper"
        fontWeight="400"
        borderWidth="1px"
        borderColor="edge"
        value={value}
        disabled={disabled}
        onChange={(event) => onChoice(event.target.value)}
      >
        {options.map(([each, name]) => (
          <option key={each} value={each}>
            {name}
          </option>
        ))}
      </chakra.select>
    </chakra.label>
  )
}

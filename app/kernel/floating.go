package kernel

func Capital(text string) string {
	if text == "" {
		return text
	}
	return string(text[0]&^0x20) + text[1:]
}

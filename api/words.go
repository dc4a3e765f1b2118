package api

import (
	"reflect"
	"strings"

	"ergasia/core/words"

	"github.com/danielgtaylor/huma/v2"
)

// chooseFrom writes into the schema what a field tagged words:"name" may be: the
// keys of that list of core/words.
func chooseFrom(schemas huma.Registry) {
	for name, schema := range schemas.Map() {
		t := schemas.TypeFromRef("#/components/schemas/" + name)
		if t == nil || t.Kind() != reflect.Struct {
			continue
		}
		chooseFields(schema, t)
		schema.PrecomputeMessages()
	}
}

func chooseFields(schema *huma.Schema, t reflect.Type) {
	for i := range t.NumField() {
		f := t.Field(i)
		if f.Anonymous && f.Type.Kind() == reflect.Struct {
			chooseFields(schema, f.Type)
			continue
		}
		list, tagged := f.Tag.Lookup("words")
		if !tagged {
			continue
		}
		key, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		property := schema.Properties[key]
		if property.Type == huma.TypeArray {
			property = property.Items
		}
		property.Enum = nil
		for _, word := range words.Lists[list].Keys() {
			property.Enum = append(property.Enum, word)
		}
		if len(property.Enum) == 0 {
			panic("no list of words is called " + list) // an error of whoever wrote the tag
		}
		property.PrecomputeMessages()
	}
}

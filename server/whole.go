package server

import (
	"reflect"
	"strings"

	"clearjar/core/plant"
)

// readable refuses a NUL anywhere in the text of a request: no text has one, and the database takes none.
func readable(in any) error { return noNUL("", reflect.ValueOf(in)) }

func noNUL(at string, v reflect.Value) error {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			return noNUL(at, v.Elem())
		}
	case reflect.String:
		if strings.ContainsRune(v.String(), 0) {
			return plant.Refuse(at, "holds a character that no text has (NUL): take it out")
		}
	case reflect.Struct:
		for i := range v.NumField() {
			f := v.Type().Field(i)
			if !f.IsExported() {
				continue
			}
			name := strings.Split(f.Tag.Get("json"), ",")[0]
			if name == "" && !f.Anonymous && f.Name != "Body" {
				name = strings.ToLower(f.Name)
			}
			if err := noNUL(strings.Trim(at+"."+name, "."), v.Field(i)); err != nil {
				return err
			}
		}
	case reflect.Slice, reflect.Array:
		if k := v.Type().Elem().Kind(); k == reflect.Uint8 || k == reflect.Float64 || k == reflect.Int {
			return nil
		}
		for i := range v.Len() {
			if err := noNUL(at, v.Index(i)); err != nil {
				return err
			}
		}
	}
	return nil
}

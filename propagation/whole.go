package propagation

import "reflect"

// Whole makes every list in an answer a list: none is null, however deep it lies. Maps too. It is the
// one place that holds this for the whole contract.
func Whole(v any) { fill(reflect.ValueOf(v).Elem()) }

func fill(v reflect.Value) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			fill(v.Elem())
		}
	case reflect.Struct:
		if opaque[v.Type().String()] {
			return
		}
		for i := range v.NumField() {
			if f := v.Field(i); f.CanSet() && holdsLists(f.Type()) {
				fill(f)
			}
		}
	case reflect.Slice:
		if v.IsNil() {
			if v.CanSet() {
				v.Set(reflect.MakeSlice(v.Type(), 0, 0))
			}
			return
		}
		if holdsLists(v.Type().Elem()) {
			for i := range v.Len() {
				fill(v.Index(i))
			}
		}
	case reflect.Map:
		if v.IsNil() && v.CanSet() {
			v.Set(reflect.MakeMap(v.Type()))
		}
		if !holdsLists(v.Type().Elem()) {
			return
		}
		for _, k := range v.MapKeys() {
			one := reflect.New(v.Type().Elem()).Elem()
			one.Set(v.MapIndex(k))
			fill(one)
			v.SetMapIndex(k, one)
		}
	}
}

// opaque are values that write themselves.
var opaque = map[string]bool{"time.Time": true, "uuid.UUID": true}

// holdsLists tells whether a value of the type may hold a list or a map.
func holdsLists(t reflect.Type) bool {
	switch t.Kind() {
	case reflect.Slice, reflect.Map:
		return true
	case reflect.Pointer:
		return holdsLists(t.Elem())
	case reflect.Struct:
		return !opaque[t.String()]
	}
	return false
}

package aboard

import (
	"fmt"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"
)

// cache keeps what is dear to work out. Those who ask for the same at once wait
// for one to work it out.
type cache[K comparable, V any] struct {
	kept  *lru.Cache[K, V]
	group singleflight.Group
}

func newCache[K comparable, V any](most int) *cache[K, V] {
	kept, err := lru.New[K, V](most)
	if err != nil {
		panic(err) // most is not positive: an error of whoever wrote it
	}
	return &cache[K, V]{kept: kept}
}

func (c *cache[K, V]) get(key K, work func() (V, error)) (V, error) {
	if v, known := c.kept.Get(key); known {
		return v, nil
	}
	v, err, _ := c.group.Do(fmt.Sprint(key), func() (any, error) {
		v, err := work()
		if err == nil {
			c.kept.Add(key, v)
		}
		return v, err
	})
	if err != nil {
		var none V
		return none, err
	}
	return v.(V), nil
}

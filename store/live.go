package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"sync"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// channel is on which copies of the program tell one another.
const channel = "ergasia_live"

// Message is what was told about a topic. An empty text says that something may have been
// missed: look again.
type Message struct {
	Topic string `json:"topic"`
	Text  string `json:"text"`
}

// Notify tells everyone who listens to a topic, in whichever copy of the program, once the
// transaction is kept. The text is short: PostgreSQL carries 8000 bytes.
func (tx *Tx) Notify(topic, text string) error {
	body, err := json.Marshal(Message{Topic: topic, Text: text})
	if err != nil {
		return fmt.Errorf("writing what is told: %w", err)
	}
	if err := tx.db.Exec("SELECT pg_notify(?, ?)", channel, string(body)).Error; err != nil {
		return fmt.Errorf("telling who listens: %w", err)
	}
	return nil
}

// Live passes on what is told to who listens in this copy of the program.
type Live struct {
	mu     sync.Mutex
	topics map[string]map[*listener]bool
	crews  map[uuid.UUID]int // how many of a crew listen
	who    map[Listener]int  // how many listen for one member
	n      int
}

// Listener is for whom something is listened for.
type Listener struct{ Crew, Member uuid.UUID }

type listener struct {
	Listener
	messages chan Message
	gone     chan struct{} // closed when the member has left the crew
	once     sync.Once
}

func (l *listener) end() { l.once.Do(func() { close(l.gone) }) }

// NewLive makes one; Run fills it.
func NewLive() *Live {
	return &Live{topics: map[string]map[*listener]bool{}, crews: map[uuid.UUID]int{}, who: map[Listener]int{}}
}

// Bounds: how many listen at once, and how many messages wait for one that is slow.
const (
	mostListeners = 2000
	mostOfCrew    = 200
	mostOfMember  = 10
	waiting       = 64
)

// ErrCrowded is of more listeners than one copy of the program serves, in all, for a crew or
// for a member.
var ErrCrowded = errors.New("too many listen")

// Listen gives what is told about a topic from now on, until stop is called. Who is too
// slow misses messages, and is told so by an empty one. Gone is closed when the member for
// whom it is has left the crew.
func (l *Live) Listen(topic string, who Listener) (messages <-chan Message, gone <-chan struct{}, stop func(), err error) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.n >= mostListeners || l.crews[who.Crew] >= mostOfCrew || l.who[who] >= mostOfMember {
		return nil, nil, nil, ErrCrowded
	}
	one := &listener{Listener: who, messages: make(chan Message, waiting), gone: make(chan struct{})}
	if l.topics[topic] == nil {
		l.topics[topic] = map[*listener]bool{}
	}
	l.topics[topic][one] = true
	l.count(who, 1)
	return one.messages, one.gone, func() {
		l.mu.Lock()
		defer l.mu.Unlock()
		if l.topics[topic][one] {
			delete(l.topics[topic], one)
			l.count(who, -1)
		}
		if len(l.topics[topic]) == 0 {
			delete(l.topics, topic)
		}
	}, nil
}

func (l *Live) count(who Listener, by int) {
	l.n += by
	if l.crews[who.Crew] += by; l.crews[who.Crew] == 0 {
		delete(l.crews, who.Crew)
	}
	if l.who[who] += by; l.who[who] == 0 {
		delete(l.who, who)
	}
}

// partTopic is what is told about people who leave their crew.
const partTopic = "left"

// NotifyLeft ends what is listened for by a member who leaves, in whichever copy of the
// program, once the transaction is kept.
func (tx *Tx) NotifyLeft(member uuid.UUID) error { return tx.Notify(partTopic, member.String()) }

// left ends what is listened for by a member.
func (l *Live) left(member string) {
	for _, all := range l.topics {
		for one := range all {
			if one.Member.String() == member {
				one.end()
			}
		}
	}
}

func (l *Live) pass(m Message) {
	l.mu.Lock()
	defer l.mu.Unlock()
	if m.Topic == partTopic {
		l.left(m.Text)
		return
	}
	for one := range l.topics[m.Topic] {
		offer(one.messages, m)
	}
}

// offer gives a message; where there is no room the oldest goes, for one that says so.
func offer(c chan Message, m Message) {
	select {
	case c <- m:
	default:
		select {
		case <-c:
		default:
		}
		select {
		case c <- Message{Topic: m.Topic}:
		default:
		}
	}
}

// missed tells everyone to look again.
func (l *Live) missed() {
	l.mu.Lock()
	defer l.mu.Unlock()
	for topic, all := range l.topics {
		for one := range all {
			offer(one.messages, Message{Topic: topic})
		}
	}
}

// again is how long Run waits before it connects anew. Practice, no source.
const again = time.Second

// Run listens to the server at a PostgreSQL URL until the context ends; when the connection
// breaks it connects anew, and tells everyone that something may have been missed.
func (l *Live) Run(ctx context.Context, url string) {
	for first := true; ctx.Err() == nil; first = false {
		err := l.listen(ctx, url, first)
		if ctx.Err() == nil {
			slog.WarnContext(ctx, "listening broke", "error", err)
		}
		select {
		case <-time.After(again):
		case <-ctx.Done():
		}
	}
}

func (l *Live) listen(ctx context.Context, url string, first bool) error {
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return fmt.Errorf("connecting: %w", err)
	}
	defer func() { _ = conn.Close(context.WithoutCancel(ctx)) }()
	if _, err := conn.Exec(ctx, "LISTEN "+channel); err != nil {
		return fmt.Errorf("listening: %w", err)
	}
	if !first {
		l.missed()
	}
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return fmt.Errorf("waiting: %w", err)
		}
		var m Message
		if json.Unmarshal([]byte(n.Payload), &m) == nil {
			l.pass(m)
		}
	}
}

//go:build js && wasm

// Command core is the core as a browser has it. It answers what only computes, by the same paths and bodies as the program, and with the same
// figures.
package main

import (
	"context"
	"encoding/json"
	"log"
	"syscall/js"

	"oldburrow/core/asked"
)

// main leaves oldBurrow(path, body, tell, done) behind: tell is called with each line of an answer that comes line by line, done once with an
// HTTP status and the answer or the problem, all as JSON. Questions are answered one after another, in their order.
func main() {
	questions := make(chan []js.Value, mostWaiting)
	js.Global().Set("oldBurrow", js.FuncOf(func(_ js.Value, args []js.Value) any {
		// Not here: what loads a zone waits for the browser, which waits for this to return.
		questions <- args
		return nil
	}))
	js.Global().Get("ready").Invoke()
	var held asked.Held
	for q := range questions {
		answer(&held, q[0].String(), []byte(q[1].String()), q[2], q[3])
	}
}

// mostWaiting is more than a page ever asks at a time.
const mostWaiting = 1024

func answer(held *asked.Held, path string, body []byte, tell, done js.Value) {
	found, err := held.Answer(context.Background(), asked.Usual(), path, body, func(line any) { tell.Invoke(written(line)) })
	if err == nil {
		done.Invoke(200, written(found))
		return
	}
	problem := asked.ProblemOf(err)
	if problem.Status == 500 {
		log.Print(path, ": ", err)
	}
	done.Invoke(problem.Status, written(problem))
}

func written(x any) string {
	raw, err := json.Marshal(x)
	if err != nil {
		panic(err) // everything that is answered can be written
	}
	return string(raw)
}

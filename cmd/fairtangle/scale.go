package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"net"
	"net/http"
	"time"

	"fairtangle/device"
	"fairtangle/studio"
	"fairtangle/studio/workshop"
	"fairtangle/web"
)

// scale runs a simulated bench scale with the page of its pan, until it is stopped.
func scale(ctx context.Context, args []string, out, logs io.Writer) error {
	flags := flag.NewFlagSet("scale", flag.ContinueOnError)
	flags.SetOutput(logs)
	addr := flags.String("addr", "127.0.0.1:7040", "address at which it sends its readings")
	at := flags.String("page", "127.0.0.1:7041", "address of the page of its pan")
	step := flags.Float64("step", 0.1, "its smallest step, grams")
	capacity := flags.Float64("capacity", 3000, "what it weighs at most, grams")
	ounces := flags.Bool("ounces", false, "it writes ounces")
	if err := flags.Parse(args); err != nil {
		return err
	}
	if !(*step >= 0.001 && *step <= 100 && *capacity >= 10**step && *capacity <= 1e6) {
		return errors.New("a scale has a step from 0.001 g to 100 g and weighs ten of them at least")
	}
	line, err := listen(*addr, "")
	if err != nil {
		return err
	}
	defer line.Close()
	page, err := listen(*at, "")
	if err != nil {
		return err
	}
	pan := device.NewPan(*step, *capacity, 1, time.Now)
	pan.Ounces = *ounces
	srv := &http.Server{Handler: web.Only(hostNames(*at, ""), pan.Page()), ReadHeaderTimeout: 10 * time.Second}
	defer context.AfterFunc(ctx, func() { _ = srv.Close() })()
	go func() { _ = srv.Serve(page) }() // ends with ctx
	fmt.Fprintf(out, "the simulated scale speaks at %s; its pan is at http://%s/\n", line.Addr(), page.Addr())
	return pan.Serve(ctx, line)
}

// standInScales starts two simulated scales beside the sample world, a fine one and one
// for the bench, and names them in the workshop.
func standInScales(ctx context.Context, st *studio.Studio) (pans []web.Pan, err error) {
	for i, v := range []workshop.Scale{{Name: "Bench scale", StepG: 0.1, CapacityG: 3000}, {Name: "Fine scale", StepG: 0.01, CapacityG: 20}} {
		l, err := net.Listen("tcp", "127.0.0.1:0")
		if err != nil {
			return nil, fmt.Errorf("simulated scale: %w", err)
		}
		pan := device.NewPan(v.StepG, v.CapacityG, uint64(i+1), time.Now)
		go func() { _ = pan.Serve(ctx, l) }() // ends with the program
		v.Address = l.Addr().String()
		if _, err := st.Workshop.SaveScale(ctx, v); err != nil {
			return nil, err
		}
		pans = append(pans, web.Pan{Address: v.Address, Page: pan.Page()})
	}
	for _, v := range []workshop.Container{{Name: "Tin dish", WeightG: 18.4}, {Name: "Mixing bowl", WeightG: 412.3}} {
		if _, err := st.Workshop.SaveContainer(ctx, v); err != nil {
			return nil, err
		}
	}
	return pans, nil
}

import { queryOptions } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";
import { keys } from "./keys";

/** Every question that screens ask of the server, in one place with its cache key. */
export const ask = {
  session: () =>
    queryOptions({
      queryKey: keys.session(),
      queryFn: () => answer(client.GET("/api/v1/session")),
      retry: false,
    }),
  staff: () =>
    queryOptions({
      queryKey: keys.staff(),
      queryFn: () => answer(client.GET("/api/v1/staff")),
      staleTime: 300_000,
    }),
  trade: () =>
    queryOptions({
      queryKey: keys.trade(),
      queryFn: () => answer(client.GET("/api/v1/trade")),
      staleTime: Infinity,
    }),
  kinds: () =>
    queryOptions({
      queryKey: keys.kinds(),
      queryFn: () => answer(client.GET("/api/v1/wheel-kinds")),
      staleTime: Infinity,
    }),
  meters: () =>
    queryOptions({
      queryKey: keys.meters(),
      queryFn: () => answer(client.GET("/api/v1/meters")),
      staleTime: 60_000,
    }),
  rail: () =>
    queryOptions({
      queryKey: keys.rail(),
      queryFn: () => answer(client.GET("/api/v1/rail")),
      refetchInterval: 30_000,
    }),
  find: (text: string) =>
    queryOptions({
      queryKey: keys.find(text),
      queryFn: () => answer(client.GET("/api/v1/find", { params: { query: { text } } })),
    }),
  places: () =>
    queryOptions({
      queryKey: keys.places(),
      queryFn: () => answer(client.GET("/api/v1/places")),
      staleTime: 60_000,
    }),
  tiers: () => queryOptions({ queryKey: keys.tiers(), queryFn: () => answer(client.GET("/api/v1/tiers")) }),
  hours: () =>
    queryOptions({ queryKey: keys.hours(), queryFn: () => answer(client.GET("/api/v1/shop/hours")) }),
  shop: () =>
    queryOptions({ queryKey: keys.shop(), queryFn: () => answer(client.GET("/api/v1/shop/settings")) }),
  allStaff: () =>
    queryOptions({ queryKey: keys.allStaff(), queryFn: () => answer(client.GET("/api/v1/shop/staff")) }),
  workTimes: (person_id: string) =>
    queryOptions({
      queryKey: keys.workTimes(person_id),
      queryFn: () =>
        answer(client.GET("/api/v1/staff/{person_id}/times", { params: { path: { person_id } } })),
    }),
  customer: (customer_id: string) =>
    queryOptions({
      queryKey: keys.customer(customer_id),
      queryFn: () =>
        answer(client.GET("/api/v1/customers/{customer_id}", { params: { path: { customer_id } } })),
    }),
  work: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "work"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/work", { params: { path: { job_id } } })),
    }),
  offers: (body: Schemas["OffersAskRequest"]) =>
    queryOptions({
      queryKey: keys.offers(body),
      queryFn: () => answer(client.POST("/api/v1/offers", { body })),
      staleTime: 60_000,
    }),
  jobOffers: (job_id: string, wanted_at: string | null) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "offers", wanted_at),
      queryFn: () =>
        answer(
          client.POST("/api/v1/jobs/{job_id}/offers", { params: { path: { job_id } }, body: { wanted_at } }),
        ),
      retry: false,
    }),
  promiseLook: (job_id: string, promised_at: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "look", promised_at),
      queryFn: () =>
        answer(
          client.POST("/api/v1/jobs/{job_id}/promise/look", {
            params: { path: { job_id } },
            body: { promised_at },
          }),
        ),
      retry: false,
    }),
  customers: (search: string) =>
    queryOptions({
      queryKey: keys.customers(search),
      queryFn: () => answer(client.GET("/api/v1/customers", { params: { query: { search } } })),
    }),
  bikeWheels: (bike_id: string) =>
    queryOptions({
      queryKey: keys.bike(bike_id, "wheels"),
      queryFn: () => answer(client.GET("/api/v1/bikes/{bike_id}/wheels", { params: { path: { bike_id } } })),
      enabled: bike_id !== "",
    }),
  job: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "head"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}", { params: { path: { job_id } } })),
    }),
  sets: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "sets"),
      queryFn: () =>
        answer(client.GET("/api/v1/jobs/{job_id}/reading-sets", { params: { path: { job_id } } })),
    }),
  plans: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "plans"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/plans", { params: { path: { job_id } } })),
    }),
  set: (set_id: string) =>
    queryOptions({
      queryKey: keys.ofSet(set_id, "readings"),
      queryFn: () => answer(client.GET("/api/v1/reading-sets/{set_id}", { params: { path: { set_id } } })),
    }),
  state: (set_id: string) =>
    queryOptions({
      queryKey: keys.ofSet(set_id, "state"),
      queryFn: () =>
        answer(client.GET("/api/v1/reading-sets/{set_id}/state", { params: { path: { set_id } } })),
    }),
  dishOptions: (set_id: string) =>
    queryOptions({
      queryKey: keys.ofSet(set_id, "dish-options"),
      queryFn: () =>
        answer(client.GET("/api/v1/reading-sets/{set_id}/dish-options", { params: { path: { set_id } } })),
      retry: false,
    }),
  livePass: (plan_id: string) =>
    queryOptions({
      queryKey: keys.livePass(plan_id),
      queryFn: () => answer(client.GET("/api/v1/plans/{plan_id}/live", { params: { path: { plan_id } } })),
    }),
  plan: (plan_id: string) =>
    queryOptions({
      queryKey: keys.plan(plan_id),
      queryFn: () => answer(client.GET("/api/v1/plans/{plan_id}", { params: { path: { plan_id } } })),
    }),
  diagnosis: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "diagnosis"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/diagnosis", { params: { path: { job_id } } })),
    }),
  requirements: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "requirements"),
      queryFn: () =>
        answer(client.GET("/api/v1/jobs/{job_id}/requirements", { params: { path: { job_id } } })),
    }),
  ends: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "ends"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/ends", { params: { path: { job_id } } })),
    }),
  unsafe: () =>
    queryOptions({
      queryKey: keys.unsafe(),
      queryFn: () => answer(client.GET("/api/v1/unsafe")),
      staleTime: 15_000,
    }),
  rules: () =>
    queryOptions({
      queryKey: keys.rules(),
      queryFn: () => answer(client.GET("/api/v1/shop/rules")),
    }),
  comparison: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "comparison"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/comparison", { params: { path: { job_id } } })),
      retry: false,
    }),
  condition: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "condition"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/condition", { params: { path: { job_id } } })),
    }),
  options: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "options"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/options", { params: { path: { job_id } } })),
    }),
  refit: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "refit"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/refit", { params: { path: { job_id } } })),
    }),
  photos: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "photos"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/photos", { params: { path: { job_id } } })),
    }),
  tag: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "tag"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/tag", { params: { path: { job_id } } })),
    }),
  prices: () =>
    queryOptions({
      queryKey: keys.prices(),
      queryFn: () => answer(client.GET("/api/v1/prices")),
    }),
  instruments: () =>
    queryOptions({
      queryKey: keys.instruments(),
      queryFn: () => answer(client.GET("/api/v1/instruments")),
    }),
  advice: (set_id: string) =>
    queryOptions({
      queryKey: keys.ofSet(set_id, "advice"),
      queryFn: () =>
        answer(client.GET("/api/v1/reading-sets/{set_id}/advice", { params: { path: { set_id } } })),
    }),
  verdict: (set_id: string) =>
    queryOptions({
      queryKey: keys.ofSet(set_id, "verdict"),
      queryFn: () =>
        answer(client.GET("/api/v1/reading-sets/{set_id}/verdict", { params: { path: { set_id } } })),
      retry: false,
    }),
  passBefore: (set_id: string) =>
    queryOptions({
      queryKey: keys.ofSet(set_id, "pass"),
      queryFn: () =>
        answer(client.GET("/api/v1/reading-sets/{set_id}/pass", { params: { path: { set_id } } })),
    }),
  laps: (set_id: string) =>
    queryOptions({
      queryKey: keys.ofSet(set_id, "laps"),
      queryFn: () =>
        answer(client.GET("/api/v1/reading-sets/{set_id}/laps", { params: { path: { set_id } } })),
    }),
  leftAlone: (set_id: string) =>
    queryOptions({
      queryKey: keys.ofSet(set_id, "left-alone"),
      queryFn: () =>
        answer(client.GET("/api/v1/reading-sets/{set_id}/left-alone", { params: { path: { set_id } } })),
    }),
  planModes: () =>
    queryOptions({
      queryKey: keys.planModes(),
      queryFn: () => answer(client.GET("/api/v1/plan-modes")),
      staleTime: Infinity,
    }),
  stock: () => queryOptions({ queryKey: keys.stock(), queryFn: () => answer(client.GET("/api/v1/stock")) }),
  orders: () =>
    queryOptions({
      queryKey: keys.orders(),
      queryFn: () => answer(client.GET("/api/v1/stock/orders")),
    }),
  sizing: (job_id: string, step_mm: number, school: "nearest" | "down") =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "sizing", step_mm, school),
      queryFn: () =>
        answer(
          client.GET("/api/v1/jobs/{job_id}/sizing", {
            params: { path: { job_id }, query: { step_mm, school } },
          }),
        ),
      placeholderData: (old) => old,
    }),
  lacing: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "lacing"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/lacing", { params: { path: { job_id } } })),
    }),
  stripping: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "strip"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/strip", { params: { path: { job_id } } })),
    }),
  replacing: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "replacing"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/replacing", { params: { path: { job_id } } })),
    }),
  spareCard: (bike_id: string) =>
    queryOptions({
      queryKey: keys.bike(bike_id, "spares"),
      queryFn: () =>
        answer(client.GET("/api/v1/bikes/{bike_id}/spare-card", { params: { path: { bike_id } } })),
    }),
};

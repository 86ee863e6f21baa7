/** Questions of the record: a wheel's history, what became of it, what reports are signed with. */
import { queryOptions } from "@tanstack/react-query";
import { answer, client } from "./client";
import { keys } from "./keys";

export type ChangesOf = "settings" | "wheel" | "part" | "customer" | "bike";

export const askRecord = {
  wheelHistory: (wheel_id: string) =>
    queryOptions({
      queryKey: keys.wheelHistory(wheel_id),
      queryFn: () =>
        answer(client.GET("/api/v1/wheels/{wheel_id}/history", { params: { path: { wheel_id } } })),
    }),
  comeback: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "comeback"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/comeback", { params: { path: { job_id } } })),
    }),
  resume: (plan_id: string) =>
    queryOptions({
      queryKey: keys.resume(plan_id),
      queryFn: () => answer(client.GET("/api/v1/plans/{plan_id}/resume", { params: { path: { plan_id } } })),
    }),
  changes: (of: ChangesOf, row = "") =>
    queryOptions({
      queryKey: keys.changes(of, row),
      queryFn: () => answer(client.GET("/api/v1/changes", { params: { query: row ? { of, row } : { of } } })),
    }),
  consents: (customer_id: string) =>
    queryOptions({
      queryKey: keys.consents(customer_id),
      queryFn: () =>
        answer(client.GET("/api/v1/customers/{customer_id}/consents", { params: { path: { customer_id } } })),
    }),
  erasure: (customer_id: string) =>
    queryOptions({
      queryKey: keys.erasure(customer_id),
      // What stands against it may have left the shop since.
      gcTime: 0,
      staleTime: 0,
      queryFn: () =>
        answer(client.GET("/api/v1/customers/{customer_id}/erasure", { params: { path: { customer_id } } })),
    }),
  underway: (key: string) =>
    queryOptions({
      queryKey: keys.underway(key),
      gcTime: 0,
      retry: false,
      refetchInterval: 500,
      queryFn: () => answer(client.GET("/api/v1/bundles/underway", { params: { query: { underway: key } } })),
    }),
  patterns: () =>
    queryOptions({ queryKey: keys.patterns(), queryFn: () => answer(client.GET("/api/v1/patterns")) }),
  feed: () =>
    queryOptions({ queryKey: keys.feed(), queryFn: () => answer(client.GET("/api/v1/calendar-feed")) }),
  backups: () =>
    queryOptions({ queryKey: keys.backups(), queryFn: () => answer(client.GET("/api/v1/backups")) }),
  signing: () =>
    queryOptions({ queryKey: keys.signing(), queryFn: () => answer(client.GET("/api/v1/signing-keys")) }),
  customerSent: (id: string) =>
    queryOptions({
      queryKey: keys.customerSent(id),
      queryFn: () =>
        answer(client.GET("/api/v1/customers/{customer_id}/sent", { params: { path: { customer_id: id } } })),
    }),
  account: () =>
    queryOptions({ queryKey: keys.account(), queryFn: () => answer(client.GET("/api/v1/account")) }),
} as const;

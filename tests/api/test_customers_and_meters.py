"""Customers, bikes and meters over HTTP."""

from felloe.customers.models import Bike, Customer
from tests.api.shop import ShopCase, bench_meter, open_job, person


class Customers(ShopCase):
    def add(self, name: str, **more):
        return self.post("customers", {"name": name, **more})

    def test_add_and_find_by_name_phone_and_bike(self) -> None:
        maud = self.add("Maud Penhale", phone="0700 900 101").json()
        self.add("Jory Trask")
        bike = {"label": "Green ferry commuter", "brake": "rim"}
        self.assertEqual(self.post(f"customers/{maud['id']}/bikes", bike).status_code, 201)
        for text in ("penh", "900 101", "green ferry"):
            with self.subTest(text):
                found = self.get(f"customers?search={text}").json()
                self.assertEqual([c["name"] for c in found], ["Maud Penhale"])
        self.assertEqual(found[0]["bikes"][0]["label"], "Green ferry commuter")
        self.assertEqual([c["name"] for c in self.get("customers").json()], ["Jory Trask", "Maud Penhale"])

    def test_refusals_at_their_field(self) -> None:
        self.assertProblem(self.add(""), 400, "invalid_input", "name")
        self.assertProblem(self.add("X", email="nowhere"), 400, "invalid_input", "email")
        maud = self.add("Maud").json()["id"]
        bad = {"label": "Bike", "brake": "anchor"}
        self.assertProblem(self.post(f"customers/{maud}/bikes", bad), 400, "invalid_input", "brake")
        self.assertEqual((Customer.objects.count(), Bike.objects.count()), (1, 0))

    def test_written_to_in_the_shops_language_until_told_otherwise(self) -> None:
        owner = self.speak_for(person(self.shop, "odile", "owner"))
        shop = self.get("shop/settings", client=owner).json()
        self.assertProblem(self.put("shop/settings", {**shop, "language": "xx"}, owner), 422, "unknown_language", "language")
        self.assertEqual(self.put("shop/settings", {**shop, "language": "de"}, owner).status_code, 200)
        self.assertEqual(self.add("Maud").json()["language"], "de")
        self.assertEqual(self.add("Jory", language="pt").json()["language"], "pt")

    def test_bikes_of_another_shops_customer(self) -> None:
        maud = self.add("Maud").json()["id"]
        over = self.speak_for(self.stranger)
        self.assertProblem(self.post(f"customers/{maud}/bikes", {"label": "B", "brake": "rim"}, client=over), 404, "not_found")

    def test_wheels_of_a_bike(self) -> None:
        job = open_job(self.bram)
        found = self.get(f"bikes/{job.wheel.bike_id}/wheels").json()
        self.assertEqual([w["id"] for w in found], [str(job.wheel_id)])
        self.assertEqual(found[0]["derived"]["sides"]["R"]["spoke_kind"], "round 2.0")


class Meters(ShopCase):
    TABLE = {"spoke_kind": "round 2.0", "readings": [10, 20, 30], "forces_n": [300, 800, 1500]}

    def test_a_shops_own_meter(self) -> None:
        made = self.post("instruments", {"name": "Old meter", "serial": "7", "tables": [self.TABLE]})
        self.assertEqual(made.status_code, 201, made.content)
        self.assertEqual(self.get("meters").json()[0]["tables"][0]["resolution"], 0.5)

    def test_a_name_is_given_once(self) -> None:
        bench_meter(self.bram)
        again = self.post("instruments", {"name": "Bench meter A", "tables": [self.TABLE]})
        self.assertProblem(again, 409, "instrument_exists")

    def test_no_table_no_meter(self) -> None:
        self.assertEqual(self.post("instruments", {"name": "Empty"}).status_code, 201)
        falling = {**self.TABLE, "forces_n": [300, 800, 700]}
        self.assertProblem(
            self.post("instruments", {"name": "Bent", "tables": [falling]}), 422, "bad_table", "tables.0.forces_n"
        )
        self.assertEqual(self.get("meters").json(), [])

    def test_the_desk_keeps_no_meters(self) -> None:
        desk = self.speak_for(person(self.shop, "pip", "desk"))
        refused = self.post("instruments", {"name": "Mine", "tables": [self.TABLE]}, client=desk)
        self.assertProblem(refused, 403, "not_permitted")

"""Brings the values of any program into Clavik: the simulator link (docs/simulator-link.md), in the standard library alone.

Put your program's values where SKIFF and its step() are now, then: python3 adapter.py [port]
"""
import asyncio
import json
import sys

RATE_HZ = 20
SKIFF = {"speed": 0.0, "throttle": 0.2, "lamp": 0, "name": "Teal"}
# One line for each value: name, type, unit, range or None, whether it may be set, the key above.
VALUES = [
    ("skiff.speed", "number", "kt", [0, 12], False, "speed"),
    ("skiff.throttle", "number", None, [0, 1], True, "throttle"),
    ("skiff.lamp", "boolean", None, None, True, "lamp"),
    ("skiff.name", "text", None, None, False, "name"),
]
EVENTS = {"skiff.stop": lambda: SKIFF.update(throttle=0.0)}


def step(seconds):
    SKIFF["speed"] += (12 * SKIFF["throttle"] - SKIFF["speed"]) * seconds / 4


def objection(message):
    """Does what Clavik asks; gives back what stands against it, or None."""
    if message["say"] == "event":
        if not 0 <= message["e"] < len(EVENTS):
            return f"there is no event number {message['e']}"
        list(EVENTS.values())[message["e"]]()
        return None
    if not 0 <= message["i"] < len(VALUES):
        return f"there is no variable number {message['i']}"
    name, kind, _, limits, writable, key = VALUES[message["i"]]
    value = message["v"]
    if not writable:
        return f"{name} can only be read"
    if isinstance(value, bool) or isinstance(value, str) != (kind == "text"):
        return f"{name} takes a {kind}, not {value!r}"
    if limits and not limits[0] <= value <= limits[1]:
        return f"{name} takes {limits[0]} to {limits[1]}, not {value}"
    SKIFF[key] = value
    return None


async def serve(reader, writer):
    def say(message):
        writer.write((json.dumps(message) + "\n").encode())

    wanted, told = None, {}

    async def frames():
        t = 0.0
        while True:
            await asyncio.sleep(1 / RATE_HZ)
            t += 1 / RATE_HZ
            if wanted is None:
                continue
            news = {i: SKIFF[VALUES[i][5]] for i in wanted}
            news = {i: v for i, v in news.items() if told.get(i, told) != v}
            told.update(news)
            say({"say": "frame", "t": round(t, 3), "i": list(news), "v": list(news.values())})

    say({"say": "hello", "link": "clavik simulator", "version": 1, "craft": "Skiff", "rateHz": RATE_HZ})
    fields = ("name", "type", "unit", "range", "writable")
    say({"say": "catalogue", "variables": [dict(zip(fields, v)) for v in VALUES], "events": [{"name": n} for n in EVENTS]})
    teller = asyncio.create_task(frames())
    try:
        while line := await reader.readline():
            try:
                message = json.loads(line)
                if message["say"] == "subscribe":
                    everything = range(len(VALUES))
                    wanted = everything if message["i"] == "all" else [i for i in message["i"] if i in everything]
                    told.clear()
                elif message["say"] in ("set", "event"):
                    problem = objection(message)
                    say({"say": "error", "id": message["id"], "message": problem} if problem else {"say": "done", "id": message["id"]})
                elif message["say"] != "hello":
                    raise ValueError(f"{message['say']} is not known")
            except (ValueError, KeyError, TypeError) as error:
                say({"say": "error", "id": None, "message": f"not understood: {error}"})
    except ConnectionError:
        pass
    finally:
        teller.cancel()
        writer.close()


async def run(port):
    async def steps():
        while True:
            await asyncio.sleep(1 / RATE_HZ)
            step(1 / RATE_HZ)

    server = await asyncio.start_server(serve, "127.0.0.1", port, limit=2**24)
    print(f"the skiff answers on port {server.sockets[0].getsockname()[1]}", flush=True)
    await asyncio.gather(server.serve_forever(), steps())


if __name__ == "__main__":
    asyncio.run(run(int(sys.argv[1]) if len(sys.argv) > 1 else 47800))

"""Reads one game controller through Linux' event devices and passes what it says on, byte by byte.

Usage: read.py DEVICE [alone]. First comes one line of JSON: who it is, its keys and axes, where everything stands; then
the events as the kernel gives them. Where events were lost, where everything stands is said anew. It ends with its input.
"""

import fcntl
import json
import os
import select
import struct
import sys

EV_SYN, EV_KEY, EV_ABS = 0, 1, 3
SYN_REPORT, SYN_DROPPED = 0, 3
KEYS, AXES = 0x300, 0x40
EVENT = struct.Struct("@llHHi")
# As systems of 64 bits have it, on any.
PASSED_ON = struct.Struct("=qqHHi")


def reading(number, size):
    # linux/ioctl.h: _IOC(_IOC_READ, 'E', number, size)
    return 2 << 30 | size << 16 | ord("E") << 8 | number


# linux/input.h
EVIOCGID = reading(0x02, 8)
EVIOCGNAME = reading(0x06, 256)
EVIOCGPHYS = reading(0x07, 256)
EVIOCGUNIQ = reading(0x08, 256)
EVIOCGKEY = reading(0x18, KEYS // 8)
EVIOCGBIT_KEY = reading(0x20 + EV_KEY, KEYS // 8)
EVIOCGBIT_ABS = reading(0x20 + EV_ABS, AXES // 8)
EVIOCGRAB = 1 << 30 | 4 << 16 | ord("E") << 8 | 0x90


def EVIOCGABS(axis):
    return reading(0x40 + axis, 24)


def bits(data):
    return [i for i in range(len(data) * 8) if data[i // 8] >> i % 8 & 1]


def asked(fd, request, size):
    data = bytearray(size)
    fcntl.ioctl(fd, request, data)
    return data


def words(fd, request):
    try:
        return asked(fd, request, 256).split(b"\0")[0].decode("utf-8", "replace")[:200]
    except OSError:
        # A device without such words refuses.
        return ""


class Controller:
    def __init__(self, fd):
        self.fd = fd
        self.keys = bits(asked(fd, EVIOCGBIT_KEY, KEYS // 8))
        self.axes = bits(asked(fd, EVIOCGBIT_ABS, AXES // 8))

    def down(self):
        return [k for k in bits(asked(self.fd, EVIOCGKEY, KEYS // 8)) if k in self.keys]

    def axis(self, axis):
        # struct input_absinfo: value, minimum, maximum, fuzz, flat, resolution
        return struct.unpack("=6i", asked(self.fd, EVIOCGABS(axis), 24))

    def hello(self):
        _, vendor, product, _ = struct.unpack("=4H", asked(self.fd, EVIOCGID, 8))
        axes = []
        for code in self.axes:
            value, least, most, *_ = self.axis(code)
            axes.append({"code": code, "value": value, "least": least, "most": most})
        return {
            "controller": 1,
            "name": words(self.fd, EVIOCGNAME),
            "vendor": vendor,
            "product": product,
            "serial": words(self.fd, EVIOCGUNIQ),
            "port": words(self.fd, EVIOCGPHYS),
            "keys": self.keys,
            "down": self.down(),
            "axes": axes,
        }

    def standing(self):
        """Where everything stands, as if all of it had just changed."""
        down = set(self.down())
        events = [(EV_KEY, k, int(k in down)) for k in self.keys]
        events += [(EV_ABS, a, self.axis(a)[0]) for a in self.axes]
        events.append((EV_SYN, SYN_REPORT, 0))
        return b"".join(PASSED_ON.pack(0, 0, *e) for e in events)


def main():
    out = sys.stdout.buffer
    try:
        fd = os.open(sys.argv[1], os.O_RDONLY | os.O_NONBLOCK)
        if sys.argv[2:] == ["alone"]:
            fcntl.ioctl(fd, EVIOCGRAB, 1)
        controller = Controller(fd)
        hello = controller.hello()
    except OSError as error:
        out.write(json.dumps({"no": error.strerror}).encode() + b"\n")
        return
    out.write(json.dumps(hello).encode() + b"\n")
    out.flush()
    lost = False
    while True:
        ready, _, _ = select.select([fd, sys.stdin], [], [])
        if sys.stdin in ready and not os.read(0, 64):
            return
        if fd not in ready:
            continue
        try:
            data = os.read(fd, EVENT.size * 64)
        except BlockingIOError:
            continue
        except OSError:
            # It was pulled out.
            return
        if not data:
            return
        for at in range(0, len(data), EVENT.size):
            event = EVENT.unpack_from(data, at)
            out.write(PASSED_ON.pack(*event))
            _, _, kind, code, _ = event
            lost = lost or (kind == EV_SYN and code == SYN_DROPPED)
            if lost and kind == EV_SYN and code == SYN_REPORT:
                lost = False
                out.write(controller.standing())
        out.flush()


if __name__ == "__main__":
    main()

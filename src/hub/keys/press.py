"""Presses keys and moves a virtual controller through Linux' uinput, as it is told line by line on its input.

Each line is `TYPE CODE VALUE` in numbers: 1 for a key or button, 3 for an axis (linux/input-event-codes.h). It says `ready`
once both devices are there, or `no` with a reason, and ends with its input; the kernel lets go of everything then.
"""

import fcntl
import os
import struct
import sys

UINPUT = os.environ.get("CLAVIK_UINPUT", "/dev/uinput")

# linux/uinput.h: _IO('U', 1), _IO('U', 2), _IOW('U', 3, struct uinput_setup), _IOW('U', 4, struct uinput_abs_setup),
# _IOW('U', 100, int), _IOW('U', 101, int), _IOW('U', 103, int)
UI_DEV_CREATE = 0x5501
UI_DEV_DESTROY = 0x5502
UI_DEV_SETUP = 0x405C5503
UI_ABS_SETUP = 0x401C5504
UI_SET_EVBIT = 0x40045564
UI_SET_KEYBIT = 0x40045565
UI_SET_ABSBIT = 0x40045567

EV_SYN, EV_KEY, EV_ABS = 0, 1, 3
BUS_VIRTUAL = 6
MOST = 32767


def device(name, keys, axes):
    fd = os.open(UINPUT, os.O_WRONLY | os.O_NONBLOCK)
    fcntl.ioctl(fd, UI_SET_EVBIT, EV_KEY)
    for code in keys:
        fcntl.ioctl(fd, UI_SET_KEYBIT, code)
    if axes:
        fcntl.ioctl(fd, UI_SET_EVBIT, EV_ABS)
    for code in axes:
        fcntl.ioctl(fd, UI_SET_ABSBIT, code)
        # struct uinput_abs_setup: code, then value, minimum, maximum, fuzz, flat, resolution
        fcntl.ioctl(fd, UI_ABS_SETUP, struct.pack("<HxxiiiiII", code, 0, -MOST, MOST, 0, 0, 0)[:28])
    # struct uinput_setup: bus, vendor, product, version, name[80], ff_effects_max
    fcntl.ioctl(fd, UI_DEV_SETUP, struct.pack("<HHHH80sI", BUS_VIRTUAL, 0, 0, 1, name.encode(), 0))
    fcntl.ioctl(fd, UI_DEV_CREATE)
    return fd


def emit(fd, kind, code, value):
    # struct input_event on a machine of 64 bits: two longs of time, which the kernel fills in, type, code, value
    os.write(fd, struct.pack("@llHHi", 0, 0, kind, code, value) + struct.pack("@llHHi", 0, 0, EV_SYN, 0, 0))


def main():
    keys = [int(k) for k in sys.argv[1].split(",")]
    buttons = [int(b) for b in sys.argv[2].split(",")]
    axes = [int(a) for a in sys.argv[3].split(",")]
    try:
        board = device("Clavik keys", keys, [])
        pad = device("Clavik controller", buttons, axes)
    except OSError as error:
        print("no", error.strerror, flush=True)
        return
    print("ready", flush=True)
    on_board = set(keys)
    for line in sys.stdin:
        try:
            kind, code, value = (int(x) for x in line.split())
        except ValueError:
            continue
        emit(board if kind == EV_KEY and code in on_board else pad, kind, code, value)


if __name__ == "__main__":
    main()

"""x"""


def main() -> None: ...

"""yoshi words: the trade's words in the terminal."""

import argparse
import sys

from yoshi_core.findings.glossary import GLOSSARY

NOT_FOUND = 2


def run(options: argparse.Namespace) -> int:
    """Print the words that hold what was asked, each with its meaning; exit code 2 where none does."""
    asked = options.word.strip().lower()
    found = [term for term in GLOSSARY if any(asked in name.lower() for name in (term.word, *term.also))]
    if not found:
        print(f"“{options.word}” is not among the words. Try a part of it.", file=sys.stderr)
        return NOT_FOUND
    for term in found:
        print(f"{term.word}: {term.meaning}")
    return 0

"""Answers to what people ask about a plan: judged by the checks and by runs of their own."""

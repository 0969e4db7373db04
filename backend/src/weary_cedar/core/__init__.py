"""The computation of the job: pure, without interface, store, clock or network."""

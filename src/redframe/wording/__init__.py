"""The words for the core's codes, in one file (`sentences.json`) for the browser and for paper."""

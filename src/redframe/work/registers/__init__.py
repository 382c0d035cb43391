"""The register of treatments: entered with every act, read, printed."""

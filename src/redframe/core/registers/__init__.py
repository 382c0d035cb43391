"""The register of treatments that an authority asks for."""

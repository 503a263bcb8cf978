"""Everything that can be set from outside; nothing else reads the environment."""

from pathlib import Path

from pydantic import Field, field_validator
from pydantic_settings import BaseSettings, SettingsConfigDict

from fern_match.api.access import LOOPBACK

LEAST_KEY = 12  # signs: shorter ones can be tried through


class Settings(BaseSettings):
    """Read from FERN_MATCH_... variables."""

    model_config = SettingsConfigDict(env_prefix="FERN_MATCH_")

    database: Path = Field(Path("var/fern-match.db"), description="The SQLite file.")
    web: Path = Field(Path("web/dist"), description="The built interface; without it only the API answers.")
    host: str = Field("127.0.0.1", description="Where to listen; loopback unless there is a reason.")
    port: int = Field(8765, ge=1, le=65535, description="The port to listen on.")
    demo: bool = Field(False, description="Put the demo match into an empty database.")
    more_hosts: str = Field("", description="Further Host names to accept, separated by commas.")

    key: str = Field("", description="Wanted from every request when listening beyond loopback; made at start where none is set.")

    @field_validator("key")
    @classmethod
    def _long_enough(cls, key: str) -> str:
        if key and len(key.strip()) < LEAST_KEY:
            raise ValueError(f"a key has {LEAST_KEY} signs or more, without blanks round it")
        return key.strip()

    @property
    def beyond_loopback(self) -> bool:
        """Whether other devices can reach the app; then every request must carry the key."""
        return self.host not in LOOPBACK

    def accepted_hosts(self) -> frozenset[str]:
        """Host names a request may be for."""
        more = {name.strip() for name in self.more_hosts.split(",") if name.strip()}
        return LOOPBACK | {self.host} | more

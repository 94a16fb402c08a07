"""The survey bench and the indicator pod: where readings are taken and facts stated."""

"""The shapes that go in and out, as OpenAPI describes them: a module a concern."""

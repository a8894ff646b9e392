package mandala.server.token;

import jakarta.validation.Valid;
import mandala.server.authorization.RequestContexts;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Tokens of connections, for those who manage the settings of an account. */
@RestController
@RequestMapping("/api/settings/tokens")
class TokenController {

  private final TokenDesk desk;
  private final RequestContexts contexts;

  TokenController(TokenDesk desk, RequestContexts contexts) {
    this.desk = desk;
    this.contexts = contexts;
  }

  /** The tokens of which the viewer may know. */
  @GetMapping
  TokenDesk.TokenList tokens() {
    return desk.list(contexts.context());
  }

  /** Makes a token. */
  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  TokenDesk.NewToken make(@Valid @RequestBody TokenDesk.TokenOrder order) {
    return desk.make(order, contexts.context());
  }

  /** Revokes a token, at once and for good. */
  @DeleteMapping("/{id}")
  TokenDesk.TokenView revoke(@PathVariable String id) {
    return desk.revoke(id, contexts.context());
  }
}

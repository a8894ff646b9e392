/**
 * What a viewer may read and ask (access-model.md, section 11); entry points {@link
 * mandala.server.authorization.ReadPolicy} and {@link mandala.server.authorization.RequestContext}.
 */
@NullMarked
package mandala.server.authorization;

import org.jspecify.annotations.NullMarked;

/**
 * People come, move and leave; entry points {@link mandala.server.lifecycle.TieController} and
 * {@link mandala.server.lifecycle.JoinController}.
 */
@NullMarked
package mandala.server.lifecycle;

import org.jspecify.annotations.NullMarked;

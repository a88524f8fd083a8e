# Fails when a file reaches into another room by a path instead of by its include folder,
# or when curses is used outside the room for the screen.
file(GLOB_RECURSE files ${SOURCE}/*.c ${SOURCE}/*.h)
foreach(file IN LISTS files)
  file(STRINGS ${file} lines REGEX "^#include \"[^\"]*/")
  file(STRINGS ${file} curses REGEX "^#include <(n?curses|term)\\.h>")
  if(lines)
    message(SEND_ERROR "${file}: ${lines}")
  endif()
  if(curses AND NOT file MATCHES "/screen/")
    message(SEND_ERROR "${file}: ${curses}")
  endif()
endforeach()

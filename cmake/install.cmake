# What is installed, and where the conventions want it. The pages and completions are printed by the program itself,
# from its tables; in a build for another machine by one for this machine, PRINTER, which is made here if it is not
# given.
include(GNUInstallDirs)
include(ExternalProject)

option(COMPRESS_PAGES "Install manual pages and changes compressed, as packages do" OFF)
set(ZSH_FOLDER ${CMAKE_INSTALL_DATADIR}/zsh/site-functions CACHE STRING "Where zsh looks for completions")

set(printed ${CMAKE_BINARY_DIR}/printed)
file(MAKE_DIRECTORY ${printed})
set(made)

set(PRINTER "" CACHE FILEPATH "A squill of this version that runs on this machine, to print its pages")
if(PRINTER)
  set(printer ${PRINTER})
  set(printer_needs)
elseif(CMAKE_CROSSCOMPILING)
  set(printer ${CMAKE_BINARY_DIR}/printer/squill)
  ExternalProject_Add(printer SOURCE_DIR ${CMAKE_SOURCE_DIR} BINARY_DIR ${CMAKE_BINARY_DIR}/printer
                      CMAKE_ARGS -DBUILD_TESTING=OFF -DSYSCONFDIR=${SYSCONFDIR}
                      BUILD_COMMAND ${CMAKE_COMMAND} --build . --target squill
                      INSTALL_COMMAND "" EXCLUDE_FROM_ALL ON)
  set(printer_needs printer)
else()
  set(printer $<TARGET_FILE:squill>)
  set(printer_needs squill)
endif()

# Prints one of them into a file; with `COMPRESS_PAGES` pages are packed.
function(print_file what file)
  add_custom_command(
    OUTPUT ${printed}/${file}
    COMMAND ${CMAKE_COMMAND} -E env LC_ALL=C ${printer} --plain --print ${what} > ${printed}/${file}
    DEPENDS ${printer_needs} VERBATIM)
  set(made ${made} ${printed}/${file} PARENT_SCOPE)
endfunction()

function(pack from to)
  add_custom_command(OUTPUT ${to} COMMAND gzip -9nc ${from} > ${to} DEPENDS ${from} VERBATIM)
  set(made ${made} ${to} PARENT_SCOPE)
endfunction()

# A paper of the sources, with links that hold where it will be.
function(paper file)
  get_filename_component(name ${file} NAME)
  add_custom_command(
    OUTPUT ${printed}/${name}
    COMMAND awk -v "papers=${papers}" -f ${CMAKE_SOURCE_DIR}/cmake/paper.awk ${CMAKE_SOURCE_DIR}/${file} > ${printed}/${name}
    DEPENDS ${file} cmake/paper.awk VERBATIM)
  set(made ${made} ${printed}/${name} PARENT_SCOPE)
  install(FILES ${printed}/${name} DESTINATION ${documents})
endfunction()

set(documents ${CMAKE_INSTALL_DATADIR}/doc/steady-quill)
set(written docs/using.md docs/administrators.md docs/callers.md docs/kinds.md docs/themes.md)
set(folders ${CMAKE_INSTALL_BINDIR} ${CMAKE_INSTALL_MANDIR}/man1 ${CMAKE_INSTALL_MANDIR}/man5
    ${CMAKE_INSTALL_DATADIR}/bash-completion/completions ${ZSH_FOLDER} ${CMAKE_INSTALL_DATADIR}/fish/vendor_completions.d
    ${CMAKE_INSTALL_DATADIR}/applications ${documents}/examples)
if(COMPRESS_PAGES)
  list(APPEND folders ${CMAKE_INSTALL_DATADIR}/lintian/overrides)
else()
  list(APPEND written README.md CHANGELOG.md)
endif()
# Which folders are made, for uninstalling.
install(CODE "set(folders \"${folders}\")\nset(notes \"${CMAKE_BINARY_DIR}/folders_made\")")
install(SCRIPT ${CMAKE_SOURCE_DIR}/cmake/note_folders.cmake)

set(papers)
foreach(file IN LISTS written)
  get_filename_component(name ${file} NAME)
  string(APPEND papers "${name} ")
endforeach()
foreach(file IN LISTS written)
  paper(${file})
endforeach()

set(pages squill.1 squill-settings.5 squill-scripts.5)
set(zip)
if(COMPRESS_PAGES)
  set(zip .gz)
  pack(${CMAKE_SOURCE_DIR}/CHANGELOG.md ${printed}/changelog.gz)
  pack(${CMAKE_SOURCE_DIR}/packaging/debian/changelog ${printed}/changelog.Debian.gz)
endif()
foreach(page ${pages})
  print_file(${page} ${page})
  if(COMPRESS_PAGES)
    pack(${printed}/${page} ${printed}/${page}.gz)
  endif()
  string(REGEX REPLACE ".*\\." "" section ${page})
  install(FILES ${printed}/${page}${zip} DESTINATION ${CMAKE_INSTALL_MANDIR}/man${section})
endforeach()
foreach(shell bash zsh fish)
  print_file(${shell} squill.${shell})
endforeach()
print_file(settings.lua settings.lua)
add_custom_target(printed ALL DEPENDS ${made})
# What `make install` needs, and no more.
add_custom_target(installable DEPENDS squill printed)

install(TARGETS squill)
install(FILES ${printed}/squill.bash DESTINATION ${CMAKE_INSTALL_DATADIR}/bash-completion/completions RENAME squill)
install(FILES ${printed}/squill.zsh DESTINATION ${ZSH_FOLDER} RENAME _squill)
install(FILES ${printed}/squill.fish DESTINATION ${CMAKE_INSTALL_DATADIR}/fish/vendor_completions.d)
install(FILES packaging/steady-quill.desktop DESTINATION ${CMAKE_INSTALL_DATADIR}/applications)
install(FILES ${printed}/settings.lua packaging/examples/keys.lua packaging/examples/start.lua
        DESTINATION ${documents}/examples)
if(COMPRESS_PAGES)
  install(FILES ${printed}/changelog.gz ${printed}/changelog.Debian.gz packaging/debian/copyright
          DESTINATION ${documents})
  install(FILES packaging/debian/lintian-overrides DESTINATION ${CMAKE_INSTALL_DATADIR}/lintian/overrides
          RENAME steady-quill)
else()
  install(FILES LICENSE DESTINATION ${documents})
endif()

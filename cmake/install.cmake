# What is installed, and where the conventions want it. The pages and completions are printed by the program itself,
# from its tables.
include(GNUInstallDirs)

option(COMPRESS_PAGES "Install manual pages and changes compressed, as packages do" OFF)
set(ZSH_FOLDER ${CMAKE_INSTALL_DATADIR}/zsh/site-functions CACHE STRING "Where zsh looks for completions")

set(printed ${CMAKE_BINARY_DIR}/printed)
file(MAKE_DIRECTORY ${printed})
set(made)

# Prints one of them into a file; with `COMPRESS_PAGES` pages are packed.
function(print_file what file)
  add_custom_command(
    OUTPUT ${printed}/${file}
    COMMAND ${CMAKE_COMMAND} -E env LC_ALL=C $<TARGET_FILE:squill> --plain --print ${what} > ${printed}/${file}
    DEPENDS squill VERBATIM)
  set(made ${made} ${printed}/${file} PARENT_SCOPE)
endfunction()

function(pack from to)
  add_custom_command(OUTPUT ${to} COMMAND gzip -9nc ${from} > ${to} DEPENDS ${from} VERBATIM)
  set(made ${made} ${to} PARENT_SCOPE)
endfunction()

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
set(documents ${CMAKE_INSTALL_DATADIR}/doc/steady-quill)
install(FILES docs/using.md docs/administrators.md docs/callers.md docs/kinds.md docs/themes.md DESTINATION ${documents})
install(FILES ${printed}/settings.lua packaging/examples/keys.lua packaging/examples/start.lua
        DESTINATION ${documents}/examples)
if(COMPRESS_PAGES)
  install(FILES ${printed}/changelog.gz ${printed}/changelog.Debian.gz packaging/debian/copyright
          DESTINATION ${documents})
  install(FILES packaging/debian/lintian-overrides DESTINATION ${CMAKE_INSTALL_DATADIR}/lintian/overrides
          RENAME steady-quill)
else()
  install(FILES README.md CHANGELOG.md LICENSE DESTINATION ${documents})
endif()

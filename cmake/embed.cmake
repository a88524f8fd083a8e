# Puts every file below a folder into the program, so that one file is all that
# has to be copied to a server. base/data.h finds them by their relative path.
function(embed_data target folder)
  file(GLOB_RECURSE files CONFIGURE_DEPENDS RELATIVE ${folder} ${folder}/*)
  list(SORT files)
  set(out ${CMAKE_BINARY_DIR}/embedded_data.c)
  set(inputs ${files})
  list(TRANSFORM inputs PREPEND ${folder}/)
  add_custom_command(
    OUTPUT ${out}
    COMMAND ${CMAKE_COMMAND} -DFOLDER=${folder} -DOUT=${out} "-DFILES=${files}"
            -P ${CMAKE_SOURCE_DIR}/cmake/embed_files.cmake
    DEPENDS ${inputs} ${CMAKE_SOURCE_DIR}/cmake/embed_files.cmake
    VERBATIM)
  target_sources(${target} PRIVATE ${out})
endfunction()

# Run by embed.cmake at build time: writes OUT, a C file with the bytes of FILES.
set(bodies "")
set(index "")
set(i 0)
foreach(file IN LISTS FILES)
  file(READ ${FOLDER}/${file} hex HEX)
  file(SIZE ${FOLDER}/${file} size)
  string(REGEX REPLACE "([0-9a-f][0-9a-f])" "0x\\1," bytes "${hex}")
  # The extra zero ends the array, so that text files are strings too.
  string(APPEND bodies "static const unsigned char file_${i}[] = {${bytes}0};\n")
  string(APPEND index "    {\"${file}\", (const char *)file_${i}, ${size}},\n")
  math(EXPR i "${i} + 1")
endforeach()
file(WRITE ${OUT} "#include \"base/data.h\"\n${bodies}const DataFile data_files[] = {\n${index}};\nconst size_t data_file_count = ${i};\n")

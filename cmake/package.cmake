# A Debian package, by `make package`; the sources in one file, by `make source`.
set(CPACK_PACKAGE_NAME steady-quill)
set(CPACK_PACKAGE_VERSION ${PROJECT_VERSION})
set(CPACK_PACKAGE_CONTACT "the Steady Quill developers <developers@steady-quill.invalid>")
set(CPACK_GENERATOR DEB)
set(CPACK_STRIP_FILES ON)
set(CPACK_INSTALL_DEFAULT_DIRECTORY_PERMISSIONS
    OWNER_READ OWNER_WRITE OWNER_EXECUTE GROUP_READ GROUP_EXECUTE WORLD_READ WORLD_EXECUTE)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_DEBIAN_PACKAGE_SECTION editors)
set(CPACK_DEBIAN_PACKAGE_PRIORITY optional)
set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS ON)
set(CPACK_DEBIAN_PACKAGE_PROVIDES editor)
set(CPACK_DEBIAN_PACKAGE_RECOMMENDS libuchardet0)
set(CPACK_DEBIAN_PACKAGE_SUGGESTS libhunspell-1.7-0, hunspell-dictionary)
set(CPACK_DEBIAN_PACKAGE_SUGGESTS "man-db, sudo, openssh-client")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "text editor for the terminal, for configuration files")
set(CPACK_DEBIAN_PACKAGE_DESCRIPTION
    "Steady Quill is a full-screen text editor without modes, with menus, help
and the useful keys on the screen. It opens files of any size at once, never
loses unsaved work, colours and checks ninety kinds of configuration files
and scripts, and saves what only root may write through sudo or doas.")
set(CPACK_DEBIAN_PACKAGE_CONTROL_EXTRA
    ${CMAKE_SOURCE_DIR}/packaging/debian/postinst ${CMAKE_SOURCE_DIR}/packaging/debian/prerm)
set(CPACK_DEBIAN_PACKAGE_CONTROL_STRICT_PERMISSION ON)
set(CPACK_SOURCE_GENERATOR TXZ)
set(CPACK_SOURCE_PACKAGE_FILE_NAME steady-quill-${PROJECT_VERSION})
set(CPACK_SOURCE_IGNORE_FILES "/\\\\.git/" "/build[^/]*/" "~$" "\\\\.bak$")
include(CPack)

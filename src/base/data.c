#include "base/data.h"

#include <string.h>

const DataFile *data_find(const char *path)
{
    for (size_t i = 0; i < data_file_count; i++)
        if (strcmp(data_files[i].path, path) == 0)
            return &data_files[i];
    return NULL;
}

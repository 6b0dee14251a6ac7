namespace EvenThimble.Core.Files;

/// <summary>Writes a file wholly or not at all.</summary>
public static class AtomicFile
{
    /// <summary>What files end in while they are written; after a crash they may be swept.</summary>
    public const string Unfinished = ".part";

    /// <summary>Writes to a temporary name in the same folder, flushes to the disk, then renames.</summary>
    /// <exception cref="IOException">The disk is full or the folder cannot be written; what was there before is still there. Or something has the name, and is not to be overwritten.</exception>
    public static void Write(string path, ReadOnlySpan<byte> bytes, bool overwrite = true)
    {
        var temporary = Path.Combine(Path.GetDirectoryName(path)!, $".{Guid.NewGuid():N}{Unfinished}");
        try
        {
            using (var stream = new FileStream(temporary, FileMode.CreateNew, FileAccess.Write, FileShare.None))
            {
                stream.Write(bytes);
                stream.Flush(flushToDisk: true);
            }

            File.Move(temporary, path, overwrite);
        }
        finally
        {
            File.Delete(temporary);
        }
    }
}

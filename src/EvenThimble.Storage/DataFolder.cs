using EvenThimble.Core.Files;

namespace EvenThimble.Storage;

/// <summary>A data folder that one program works in and no other. What an earlier one left unfinished in it is swept.</summary>
public sealed class DataFolder : IDisposable
{
    private const string LockName = "in-use";
    private readonly FileStream _lock;

    private DataFolder(string path, FileStream held) => (Path, _lock) = (path, held);

    /// <summary>Where it is.</summary>
    public string Path { get; }

    /// <summary>Takes a folder, and makes it where it is missing.</summary>
    /// <exception cref="StorageException">Another program works in it, or it cannot be made or written.</exception>
    public static DataFolder Take(string path)
    {
        try
        {
            Directory.CreateDirectory(path);
            var held = new FileStream(System.IO.Path.Combine(path, LockName), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
            foreach (var left in Directory.EnumerateFiles(path, $".*{AtomicFile.Unfinished}", new EnumerationOptions { RecurseSubdirectories = true, AttributesToSkip = FileAttributes.ReparsePoint })) File.Delete(left);
            var uploads = System.IO.Path.Combine(path, "uploads");
            if (Directory.Exists(uploads))
                foreach (var left in Directory.EnumerateFiles(uploads)) File.Delete(left);
            return new(path, held);
        }
        catch (IOException e) when (Directory.Exists(path) && File.Exists(System.IO.Path.Combine(path, LockName)))
        {
            throw new StorageException($"Another Even Thimble works in the data folder {path}. Stop that one first, or choose another folder with --data.", e);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StorageException($"The data folder {path} cannot be made or written. Choose another with --data.", e);
        }
    }

    /// <summary>Gives it up.</summary>
    public void Dispose() => _lock.Dispose();
}

using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using Microsoft.Win32.SafeHandles;

namespace GateSplit.Core.Sound;

/// <summary>
/// A file as libsndfile is to see it: a few of its bytes are others than on the disk. So a size that a broken recorder left wrong is put
/// right without writing to a file that is not ours.
/// </summary>
internal sealed unsafe class PatchedFile : IDisposable
{
    private readonly SafeFileHandle _file;
    private readonly long _patchAt;
    private readonly byte[] _patch;
    private readonly long _length;
    private GCHandle _self;
    private long _at;

    /// <summary>Takes a file over.</summary>
    /// <param name="file">It is closed with this.</param>
    /// <param name="patchAt">Byte of the file where the patch begins.</param>
    /// <param name="patch">What is read from there on instead.</param>
    public PatchedFile(SafeFileHandle file, long patchAt, byte[] patch)
    {
        (_file, _patchAt, _patch, _length) = (file, patchAt, patch, RandomAccess.GetLength(file));
        _self = GCHandle.Alloc(this);
    }

    /// <summary>What the callbacks are given to know it by.</summary>
    public IntPtr Handle => GCHandle.ToIntPtr(_self);

    /// <summary>SF_VIRTUAL_IO of sndfile.h.</summary>
    public static Callbacks Table => new() { Length = &Length, Seek = &Seek, Read = &Read, Write = &Write, Tell = &Tell };

    /// <inheritdoc/>
    public void Dispose()
    {
        _file.Dispose();
        if (_self.IsAllocated)
        {
            _self.Free();
        }
    }

    [UnmanagedCallersOnly(CallConvs = [typeof(CallConvCdecl)])]
    private static long Length(IntPtr handle) => Of(handle)._length;

    [UnmanagedCallersOnly(CallConvs = [typeof(CallConvCdecl)])]
    private static long Seek(long offset, int whence, IntPtr handle)
    {
        var file = Of(handle);
        var from = (SeekOrigin)whence switch { SeekOrigin.Begin => 0, SeekOrigin.Current => file._at, _ => file._length };
        return file._at = Math.Clamp(from + offset, 0, file._length);
    }

    [UnmanagedCallersOnly(CallConvs = [typeof(CallConvCdecl)])]
    private static long Read(IntPtr into, long count, IntPtr handle)
    {
        var file = Of(handle);
        try
        {
            return file.Read(new Span<byte>((void*)into, (int)Math.Min(count, int.MaxValue)));
        }
        catch (IOException)
        {
            // No exception passes through the library; to it the file ends here, and that is told.
            return 0;
        }
    }

    [UnmanagedCallersOnly(CallConvs = [typeof(CallConvCdecl)])]
    private static long Write(IntPtr from, long count, IntPtr handle) => 0;

    [UnmanagedCallersOnly(CallConvs = [typeof(CallConvCdecl)])]
    private static long Tell(IntPtr handle) => Of(handle)._at;

    private static PatchedFile Of(IntPtr handle) => (PatchedFile)GCHandle.FromIntPtr(handle).Target!;

    private long Read(Span<byte> into)
    {
        var got = RandomAccess.Read(_file, into, _at);
        for (var i = Math.Max(_at, _patchAt); i < Math.Min(_at + got, _patchAt + _patch.Length); i++)
        {
            into[(int)(i - _at)] = _patch[i - _patchAt];
        }

        _at += got;
        return got;
    }

    /// <summary>SF_VIRTUAL_IO of sndfile.h.</summary>
    [StructLayout(LayoutKind.Sequential)]
    public struct Callbacks
    {
        /// <summary>The length of the file.</summary>
        public delegate* unmanaged[Cdecl]<IntPtr, long> Length;

        /// <summary>Goes to a place in it.</summary>
        public delegate* unmanaged[Cdecl]<long, int, IntPtr, long> Seek;

        /// <summary>Reads from there.</summary>
        public delegate* unmanaged[Cdecl]<IntPtr, long, IntPtr, long> Read;

        /// <summary>Writes nothing: the file is only read.</summary>
        public delegate* unmanaged[Cdecl]<IntPtr, long, IntPtr, long> Write;

        /// <summary>Where it stands.</summary>
        public delegate* unmanaged[Cdecl]<IntPtr, long> Tell;
    }
}
